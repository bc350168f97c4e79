"""One pairing compared: publisher now, gradebook now, and what was sent, for every placed item."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal
from fractions import Fraction

from vennpair.core.reconcile.causes import CellFacts, cause_of_cell, cause_of_column, cause_of_learner
from vennpair.core.reconcile.cells import Column, judge
from vennpair.core.reconcile.facts import Person, PlacedItem
from vennpair.core.reconcile.learners import Candidate, Learner, Matching, match
from vennpair.core.reconcile.levels import REMEDIES
from vennpair.core.reconcile.numbers import written_decimals


@dataclass(frozen=True, slots=True)
class LiveCell:
    """A cell that does not agree, with its cause in a sentence and the remedies offered."""

    kind: str
    item: PlacedItem
    learner: Person
    publisher: Decimal | None
    gradebook: Decimal | None
    sent: Decimal | None
    scaled: Fraction | None
    cause: str
    remedies: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class SideFinding:
    """A finding about a column or a learner."""

    kind: str
    subject: str
    cause: str
    item: PlacedItem | None = None
    learner: Person | None = None
    candidates: tuple[Candidate, ...] = ()


@dataclass(slots=True)
class LiveComparison:
    """The whole result of comparing one pairing; ``grid`` has each matched learner's kinds, one for each item with a column."""

    counts: Counter[str] = field(default_factory=Counter)
    cells: list[LiveCell] = field(default_factory=list)
    columns: list[SideFinding] = field(default_factory=list)
    learners: list[SideFinding] = field(default_factory=list)
    matched_learners: int = 0
    grid: list[tuple[Person, list[str | None]]] = field(default_factory=list)


def compare_live(items: Sequence[PlacedItem], publisher: Sequence[Person], shell: Sequence[Person], extra_columns: Sequence[str] = (), zone: str = "UTC") -> LiveComparison:
    """Compare one pairing; the result is in the order of the items and of the publisher's learners.

    ``extra_columns`` are titles of columns that no placement claims; ``zone`` is the course's, in
    which causes tell their times.
    """
    result = LiveComparison()
    matching = _match(publisher, shell)
    pairs = [(publisher[i], shell[j]) for i, j in matching.pairs]
    result.matched_learners = len(pairs)
    result.grid = [(ours, []) for _, ours in pairs]
    for item in items:
        result.columns.extend(_column_findings(item))
        if item.column_title is not None:
            _compare_item(result, item, pairs, zone)
    result.columns.extend(SideFinding("column_extra", title, cause_of_column("column_extra", None, title)) for title in extra_columns)
    result.learners = _learner_findings(matching, publisher, shell)
    return result


def _match(publisher: Sequence[Person], shell: Sequence[Person]) -> Matching:
    """Match by the launch's subject first, then as in files: by institutional number, then by email."""
    subjects = {person.subject for person in publisher if person.subject} & {person.subject for person in shell if person.subject}

    def learner(person: Person) -> Learner:
        return Learner(f"subject:{person.subject}" if person.subject in subjects else person.number, person.email, person.name)

    return match([learner(each) for each in publisher], [learner(each) for each in shell])


def _compare_item(result: LiveComparison, item: PlacedItem, pairs: Sequence[tuple[Person, Person]], zone: str) -> None:
    column = Column(item.column_points, written_decimals(item.gradebook.values()), item.rounds)
    for (theirs, ours), (_, row) in zip(pairs, result.grid, strict=True):
        score, written, sent = item.chosen.get(ours.key) or item.publisher.get(theirs.key), item.gradebook.get(ours.key), item.sent.get(ours.key)
        refused, held = (sent.refused, sent.held) if sent else ("", "")
        reported = score is not None and sent is not None and sent.newest == score.mark.score
        kind = judge(column, score.mark if score else None, written, sent.mark if sent else None, held=bool(held), refused=bool(refused))
        row.append(kind)
        if kind is None:
            continue
        result.counts[kind] += 1
        if kind == "agree":
            continue
        facts = CellFacts(kind, score.mark if score else None, score.at if score else "", reported, written, item.column_points, item.points, sent.mark if sent else None, sent.at if sent else None, refused, held)
        result.cells.append(
            LiveCell(
                kind,
                item,
                ours,
                score.mark.score if score else None,
                written,
                sent.mark.score if sent and sent.mark else None,
                column.value(score.mark) if score else None,
                cause_of_cell(facts, zone),
                REMEDIES.get(kind, ()),
            )
        )


def _column_findings(item: PlacedItem) -> list[SideFinding]:
    codes = []
    if not item.at_publisher:
        codes.append("item_gone")
    if item.has_column and item.column_title is None:
        codes.append("column_missing")
    if item.column_title is not None:
        if not item.points or not item.column_points:
            codes.append("points_missing")
        elif item.points != item.column_points:
            codes.append("points_differ")
        if item.due_at and item.column_due and _instant(item.due_at) != _instant(item.column_due):
            codes.append("due_differs")
        if item.title != item.column_title:
            codes.append("title_differs")
    return [SideFinding(code, item.title, cause_of_column(code, item, item.title), item) for code in codes]


def _instant(text: str) -> datetime | str:
    try:
        return datetime.fromisoformat(text)
    except ValueError:
        return text


def _learner_findings(matching: Matching, publisher: Sequence[Person], shell: Sequence[Person]) -> list[SideFinding]:
    sides = {"publisher": publisher, "shell": shell}
    return [SideFinding(each.kind, each.learner.name or each.learner.email, cause_of_learner(each), None, sides[each.side][each.position], each.candidates) for each in matching.open]
