"""Turn chosen findings into the exact writes that would settle them.

Nothing is stored or sent here.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.reconcile.cells import Mark
from vennpair.core.reconcile.numbers import shortest
from vennpair.core.reconcile.remedies import (
    CLAIM,
    CLEAR,
    EMPTYING,
    MATCH,
    NAMES_ONE,
    PUT_BACK,
    QUIETS,
    TIE,
    WRITES_SCORE,
    Write,
    in_words,
    is_for_many,
    is_safe,
)
from vennpair.core.relay.decide import Counted, to_send
from vennpair.service.kernel.errors import Refused
from vennpair.service.reconcile.models import Comparison, Finding, SettleStep
from vennpair.service.reconcile.send_history import LEDGER
from vennpair.service.relay.models import Cell
from vennpair.service.relay.rule_lookup import Placed, placed_with_rules
from vennpair.service.stored import (
    ColumnClaimed,
    ColumnPutBack,
    ItemTied,
    LearnerMatched,
    PublisherReport,
    ScoreWrite,
)

MOST = 5_000


@dataclass(frozen=True, slots=True)
class Wanted:
    """What is to be settled: all safe cells, whole kinds by one remedy (empty: each one's default),
    and single findings. What was not read at the publisher is overwritten or emptied only as a
    single one.

    A kind may be narrowed by what explains it: ``edited:points_differ``, or ``edited:`` for those
    that nothing explains.

    ``single``: by the finding's id its remedy and, for a match, the chosen candidate's key.
    """

    safe: bool = False
    kinds: Mapping[str, str] = field(default_factory=dict)
    single: Mapping[int, tuple[str, str]] = field(default_factory=dict)


def plan_settling(comparison: Comparison, wanted: Wanted) -> list[SettleStep]:
    """Return the steps, unsaved, in the order in which they are done.

    Raises Refused where something chosen cannot be settled so.
    """
    if comparison.at is None:
        raise Refused(
            "not_compared",
            "This comparison is not finished, so there is nothing to settle yet.",
            "Wait until it is done.",
            409,
        )
    if comparison.given:
        raise Refused(
            "from_file",
            f"This compares with the file {comparison.given['name']}, so what it found is not"
            " written to the gradebook.",
            "Compare with the gradebook itself, then settle.",
            409,
        )
    chosen = _chosen(comparison, wanted)
    if not chosen:
        raise Refused(
            "nothing_to_settle",
            "None of the open findings is of the kind that was asked for.",
            "Compare again, or choose findings from the list.",
            409,
        )
    if len(chosen) > MOST:
        raise Refused(
            "too_many",
            f"{len(chosen)} findings are more than {MOST:,} at once.",
            "Settle one kind or one item at a time.",
            413,
        )
    placed, memories = placed_with_rules(comparison.pairing), _memories(comparison)
    steps = [
        _step(finding, remedy, candidate, placed, memories) for finding, remedy, candidate in chosen
    ]
    steps.sort(
        key=lambda step: _ORDER[step.scope]
    )  # who is who first, then what the columns are worth, then their cells
    for position, step in enumerate(steps):
        step.position = position
    return steps


_ORDER = {"learner": 0, "column": 1, "cell": 2}


def _chosen(comparison: Comparison, wanted: Wanted) -> list[tuple[Finding, str, str]]:
    rows: list[tuple[Finding, str, str]] = []
    found = list(comparison.findings.select_related("person").all())
    unknown = wanted.single.keys() - {each.pk for each in found}
    if unknown:
        raise Refused(
            "unknown_finding",
            f"{len(unknown)} of the chosen findings are not in this comparison.",
            "Look at the newest comparison and choose from its list.",
            422,
        )
    alone = 0
    for each in found:
        if each.pk in wanted.single:
            rows.append((each, *wanted.single[each.pk]))
            continue
        remedy = _by_kind(each, wanted)
        if remedy is None:
            continue
        if is_for_many(remedy or each.default, read=each.read, empty=each.gradebook is None):
            rows.append((each, remedy, ""))
        else:
            alone += 1
    if alone and not rows:
        raise Refused(
            "not_read",
            f"The publisher's own scores of these {many(alone, 'cell')} were not read in this"
            " comparison, so they are not overwritten or emptied together.",
            "Look at them one by one, or make the publisher's scores readable and compare again.",
            409,
        )
    return [(each, _remedy(each, remedy, candidate), candidate) for each, remedy, candidate in rows]


def _by_kind(each: Finding, wanted: Wanted) -> str | None:
    """Return the remedy that is asked for all of a finding's kind, empty for its default; None
    where none is, or somebody keeps it.
    """
    if each.kept is not None:
        return None
    for name in (f"{each.kind}:{each.because}", each.kind):
        if name in wanted.kinds:
            return wanted.kinds[name]
    return "" if wanted.safe and each.scope == "cell" and is_safe(each.kind) else None


def _remedy(finding: Finding, remedy: str, candidate: str) -> str:
    remedy = remedy or finding.default
    what = (
        f"'{finding.kind}' of {', '.join(part for part in (finding.learner, finding.item) if part)}"
    )
    if not finding.remedies:
        raise Refused("nothing_to_do", f"{what} needs nothing to be done.", "Leave it out.", 422)
    if not remedy:
        raise Refused(
            "choose",
            f"{what}: a person must choose.",
            f"Say which: {', '.join(finding.remedies)}.",
            422,
        )
    if remedy not in finding.remedies:
        raise Refused(
            "unknown_remedy",
            f"{what} cannot be settled by '{remedy}'.",
            f"Choose one of: {', '.join(finding.remedies)}.",
            422,
        )
    if remedy == CLEAR and not finding.read and finding.source != LEDGER:
        raise Refused(
            "not_read",
            f"{what}: the publisher was not asked for this cell, so it is not emptied.",
            "Compare again.",
            409,
        )
    keys = {each["key"] for each in finding.candidates}
    if remedy in NAMES_ONE and candidate not in keys and (candidate or len(keys) != 1):
        raise Refused("choose", f"{what}: several may be the same.", "Name the candidate.", 422)
    return remedy


def _step(
    finding: Finding,
    remedy: str,
    candidate: str,
    placed: Mapping[Any, Placed],
    memories: Mapping[tuple[Any, Any], ScoreWrite],
) -> SettleStep:
    step = SettleStep(
        key=finding.key,
        scope=finding.scope,
        kind=finding.kind,
        remedy=remedy,
        placement_id=finding.placement_id,
        person_id=finding.person_id,
        item=finding.item,
        learner=finding.learner,
        publisher=finding.publisher,
        before=finding.gradebook,
    )
    write: Write | None = None
    if remedy in WRITES_SCORE:
        write = EMPTYING if remedy == CLEAR else _write(finding, placed)
        step.after = write.shows
        step.facts = ScoreWrite(
            given=_text(write.given),
            maximum=_text(write.maximum),
            points=finding.gradebook_points,
            report=_report(finding),
        )
        step.memory = memories.get((finding.placement_id, finding.person_id), {})
    elif remedy in QUIETS:
        step.after = finding.gradebook
    elif remedy == PUT_BACK:
        step.after, step.facts = finding.publisher, ColumnPutBack(to=finding.publisher)
    elif remedy in (CLAIM, TIE, MATCH):
        step.facts, step.words = _joined(finding, remedy, candidate)
    step.words = step.words or _words(step, write)
    return step


def _joined(
    finding: Finding, remedy: str, candidate: str
) -> tuple[ColumnClaimed | ItemTied | LearnerMatched, str]:
    """Return which two belong together from now on, as facts and in words; without a candidate
    the likeliest, and of columns always that.
    """
    likeliest = finding.candidates[0]["key"]
    key = likeliest if remedy == CLAIM else candidate or likeliest
    other = next(each for each in finding.candidates if each["key"] == key)
    name = other["name"]
    if remedy == CLAIM:
        words = f"{finding.item}: its scores go to the column '{name}' from now on"
        return ColumnClaimed(column=key), words
    if remedy == TIE:
        words = f"{finding.item}: its scores are read from '{name}' at the publisher from now on"
        return ItemTied(line_item=key), words
    words = (
        f"{finding.learner} ({finding.email or 'no address'}) and {name}"
        f" ({other['email'] or 'no address'}) are one person"
    )
    learner = str(finding.person_id) if finding.person_id else key
    return LearnerMatched(account=finding.account or key, learner=learner), words


def _words(step: SettleStep, write: Write | None) -> str:
    who = step.title
    if step.scope == "column" and step.remedy == PUT_BACK:
        return f"{who}: {step.before or 'none'} becomes {step.after or 'none'} in the gradebook"
    if step.remedy == "make_again":
        return f"{who}: its column is made again, and its scores are sent into it"
    if step.scope != "cell":
        return f"{who}: stays as it is, and is no longer shown as open"
    return f"{who}: {in_words(step.before, write, step.remedy)}"


def _write(finding: Finding, placed: Mapping[Any, Placed]) -> Write:
    points = _number(finding.gradebook_points)
    mark = Mark(Decimal(finding.publisher or 0), _number(finding.publisher_points))
    known = placed.get(finding.placement_id)
    if known is not None and mark.points:
        mark = to_send(Counted(mark.score, mark.points, timezone.now(), ()), known.rule, points)
    return Write.of(mark, points)


def _report(finding: Finding) -> PublisherReport | None:
    """Return the publisher's score as it would have reported it, where it was read and not
    reported.
    """
    if (
        finding.source != "publisher"
        or finding.publisher is None
        or finding.publisher_points is None
    ):
        return None
    return PublisherReport(
        given=finding.publisher, maximum=finding.publisher_points, at=finding.publisher_at
    )


def _memories(comparison: Comparison) -> dict[tuple[Any, Any], ScoreWrite]:
    cells = Cell.objects.filter(pairing=comparison.pairing_id, sent_given__isnull=False)
    return {
        (each.placement_id, each.learner_id): {
            "given": _text(each.sent_given),
            "maximum": _text(each.sent_maximum),
        }
        for each in cells
    }


def _number(text: str | None) -> Decimal | None:
    return None if text is None else Decimal(text)


def _text(value: Decimal | None) -> str | None:
    return None if value is None else shortest(value)
