"""One pairing compared: publisher now, gradebook now, and what was sent, for every placed item."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal
from fractions import Fraction

from vennpair.core.reconcile.causes import CellFacts, cause_of_cell, cause_of_learner
from vennpair.core.reconcile.cells import Column, Mark, judge
from vennpair.core.reconcile.facts import (
    LooseColumn,
    Person,
    PlacedItem,
    PublisherScore,
    SentFact,
)
from vennpair.core.reconcile.learners import Candidate, Learner, Matching, match
from vennpair.core.reconcile.live_columns import (
    ColumnFinding,
    column_findings,
    loose_findings,
    with_heirs,
)
from vennpair.core.reconcile.numbers import written_decimals
from vennpair.core.reconcile.remedies import remedies_of, remedies_of_learner

SUBJECT = "subject:"  # what an id begins with that is a launch's subject


@dataclass(frozen=True, slots=True)
class LiveCell:
    """A cell that does not agree, with its cause in a sentence and the remedies offered.

    ``because`` is the kind of the column's finding that explains it: with that mended, the two
    sides agree. ``read`` says that the publisher was asked for this cell in this comparison.
    """

    kind: str
    item: PlacedItem
    learner: Person
    publisher: Mark | None
    gradebook: Decimal | None
    sent: Decimal | None
    scaled: Fraction | None
    cause: str
    remedies: tuple[str, ...]
    source: str = ""
    at: str = ""
    because: str = ""
    read: bool = True


@dataclass(frozen=True, slots=True)
class LearnerFinding:
    """A learner about whom something is open; ``side`` is where they are."""

    kind: str
    side: str
    learner: Person
    cause: str
    candidates: tuple[tuple[Person, Candidate], ...]
    remedies: tuple[str, ...]


@dataclass(slots=True)
class MatchedRow:
    """A matched learner: the shell's person, the publisher's, by what they were matched; a kind and
    two shares for each column.

    Shares are of the column's points, publisher first; None where a side has no score or the column
    no points.
    """

    ours: Person
    theirs: Person
    by: str
    kinds: list[str | None] = field(default_factory=list)
    shares: list[tuple[float | None, float | None]] = field(default_factory=list)


@dataclass(slots=True)
class LiveComparison:
    """The whole result of comparing one pairing, in the order of the items and of the publisher's
    learners.
    """

    counts: Counter[str] = field(default_factory=Counter)
    cells: list[LiveCell] = field(default_factory=list)
    columns: list[ColumnFinding] = field(default_factory=list)
    learners: list[LearnerFinding] = field(default_factory=list)
    grid: list[MatchedRow] = field(default_factory=list)


def compare_live(
    items: Sequence[PlacedItem],
    publisher: Sequence[Person],
    shell: Sequence[Person],
    loose: Sequence[LooseColumn] = (),
    zone: str = "UTC",
) -> LiveComparison:
    """Compare one pairing; the same input gives the same result in the same order.

    ``zone`` is the course's, in which causes tell their times.
    """
    result = LiveComparison()
    matching = _match(publisher, shell)
    result.grid = [MatchedRow(shell[j], publisher[i], matching.by[i]) for i, j in matching.pairs]
    for item in items:
        result.columns.extend(column_findings(item, zone))
        if item.column_title is not None:
            _compare_item(result, item, zone)
    result.columns = with_heirs(result.columns, loose)
    inherited = {each.heir.url for each in result.columns if each.heir is not None}
    result.columns.extend(
        loose_findings(items, [each for each in loose if each.url not in inherited])
    )
    result.learners = _learner_findings(matching, publisher, shell)
    return result


def agreeing(
    items: Sequence[PlacedItem], publisher: Sequence[Person], shell: Sequence[Person]
) -> set[tuple[str, str]]:
    """Return the cells, by placement and the shell's key of a learner, whose two sides hold the
    same number of the same points.

    Nothing else has to be known of them: what was sent, when and how is only looked up for the
    others.
    """
    pairs = [(shell[j].key, publisher[i].key) for i, j in _match(publisher, shell).pairs]
    return {
        (item.placement, ours)
        for item in items
        if item.column_title is not None
        for ours, theirs in pairs
        if (score := item.publisher.get(theirs)) is not None
        and score.mark.points == item.column_points
        and score.mark.score == item.gradebook.get(ours)
    }


def _match(publisher: Sequence[Person], shell: Sequence[Person]) -> Matching:
    """Match by the launch's subject first, then as in files: by institutional number, then by
    email.
    """
    subjects = {person.subject for person in publisher if person.subject} & {
        person.subject for person in shell if person.subject
    }

    def learner(person: Person) -> Learner:
        return Learner(
            SUBJECT + person.subject if person.subject in subjects else person.number,
            person.email,
            person.name,
        )

    matching = match([learner(each) for each in publisher], [learner(each) for each in shell])
    for i, _ in matching.pairs:
        if publisher[i].subject in subjects:
            matching.by[i] = "launch"
    return matching


def _compare_item(result: LiveComparison, item: PlacedItem, zone: str) -> None:
    column: Column | None = None
    for row in result.grid:
        ours = row.ours.key
        score, written = _publisher_score(item, row), item.gradebook.get(ours)
        mark = score.mark if score else None
        row.shares.append(
            (
                _share(mark.score, mark.points or item.column_points) if mark else None,
                None if written is None else _share(written, item.column_points),
            )
        )
        if (
            mark is not None and mark.points == item.column_points and mark.score == written
        ):  # most cells: nothing has to be scaled or rounded
            row.kinds.append("agree")
            result.counts["agree"] += 1
            continue
        column = column or Column(
            item.column_points, written_decimals(item.gradebook.values()), item.rounds
        )
        sent = item.sent.get(ours)
        kind = None
        if item.at_publisher or written is not None or sent is not None:
            # The column's own finding says that the item is gone; its empty cells say nothing more.
            kind = judge(
                column,
                mark,
                written,
                sent.mark if sent else None,
                held=bool(sent and sent.held),
                refused=bool(sent and sent.refused),
                read=_is_told(item, mark, sent),
            )
        row.kinds.append(kind)
        if kind is None:
            continue
        result.counts[kind] += 1
        if kind != "agree":
            result.cells.append(_cell(kind, item, row.ours, column, score, sent, zone))


def _publisher_score(item: PlacedItem, row: MatchedRow) -> PublisherScore | None:
    """Return what counts at the publisher; None where it has no score, or nobody told."""
    if item.told_by == "nobody":
        return None
    return item.chosen.get(row.ours.key) or item.publisher.get(row.theirs.key)


def _is_told(item: PlacedItem, mark: Mark | None, sent: SentFact | None) -> bool:
    """Say whether it is known what the publisher has in a cell, if only that it has no score.

    Reports say what is there; that something is not there any more they only say where one of them
    took a score back.
    """
    if item.told_by == "ledger" and mark is None and sent is not None and sent.mark is not None:
        return sent.taken_back
    return item.told_by != "nobody"


def _cell(
    kind: str,
    item: PlacedItem,
    learner: Person,
    column: Column,
    score: PublisherScore | None,
    sent: SentFact | None,
    zone: str,
) -> LiveCell:
    mark, written, read = (
        score.mark if score else None,
        item.gradebook.get(learner.key),
        item.told_by == "publisher",
    )
    facts = CellFacts(kind, score, written, item.column_points, item.points, sent, read)
    from_reports = "ledger" if kind != "unread" and item.told_by == "ledger" else ""
    return LiveCell(
        kind,
        item,
        learner,
        mark,
        written,
        sent.mark.score if sent and sent.mark else None,
        column.value(mark) if mark else None,
        cause_of_cell(facts, zone),
        remedies_of(kind, publisher=mark is not None, read=read),
        score.source if score else from_reports,
        score.at if score else "",
        _because(item, column, mark, written),
        read,
    )


def _because(item: PlacedItem, column: Column, mark: Mark | None, written: Decimal | None) -> str:
    """Say whether the cell would agree if the column had the item's points: one change then
    explains a whole column.
    """
    if (
        mark is None
        or written is None
        or not item.points
        or not item.column_points
        or item.points == item.column_points
    ):
        return ""
    return "points_differ" if replace(column, points=item.points).shows(mark, written) else ""


def _share(score: Decimal, points: Decimal | None) -> float | None:
    return (
        round(float(score) / float(points), 4) if points else None
    )  # for a picture, where floats will do


def _learner_findings(
    matching: Matching, publisher: Sequence[Person], shell: Sequence[Person]
) -> list[LearnerFinding]:
    found = []
    for each in matching.open:
        mine, others = (publisher, shell) if each.side == "publisher" else (shell, publisher)
        person = mine[each.position]
        candidates = tuple(
            (others[like.position], like) for like in each.candidates if like.position >= 0
        )
        remedies = remedies_of_learner(candidates=bool(candidates) and not each.holds)
        found.append(
            LearnerFinding(
                each.kind, each.side, person, cause_of_learner(each, person), candidates, remedies
            )
        )
    return found
