"""Note what came of a step of a settlement, on the step and of the cell, column or match that it
was about; in the caller's transaction, who stores the step.
"""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal
from typing import Any

from django.db.models import F
from django.utils import timezone

from vennpair.core.reconcile.remedies import CLAIM, MATCH, QUIETS, TIE
from vennpair.service.content.models import Item, Placement
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.actions.match_learners import confirm_match, undo_match
from vennpair.service.pair.models import Learner, LearnerMatch
from vennpair.service.reconcile.gradebook_writes import DONE, POINTS, Came
from vennpair.service.reconcile.models import Keep, Settlement, SettleStep
from vennpair.service.relay.actions.fill_new_column import fill_new_column
from vennpair.service.relay.actions.receive_score import receive_score
from vennpair.service.relay.actions.take_reports import moment_of
from vennpair.service.relay.models import Cell, LedgerEntry, Passage
from vennpair.service.relay.scheduling import enqueue_relay
from vennpair.service.stored import ColumnClaimed, ItemTied
from vennpair.standards.lti.grades import Score

UNDO = "undo"
_FIELD = {
    **dict.fromkeys(POINTS, "points"),
    "title_differs": "title",
    "due_differs": "due_at",
    "category_differs": "category",
}


def settle_cell(step: SettleStep, came: Came) -> None:
    """Note what came of a cell's write, in the caller's transaction."""
    done_at = came.at or timezone.now()
    step.state, step.message, step.done_at = came.state, came.message[:500], done_at
    if came.state == DONE:
        step.after = came.there
        _remember(step, done_at)
        if step.remedy == UNDO:
            SettleStep.objects.filter(pk=step.facts["reverses"]).update(
                state=SettleStep.State.UNDONE
            )


def settle_column(step: SettleStep, came: Came) -> None:
    """Note what came of a column's write; what was deployed is now what was written."""
    step.state, step.message = came.state, came.message[:500]
    if came.state == DONE:
        step.after = came.there
        _deployed(step)
        if step.remedy == UNDO:
            SettleStep.objects.filter(pk=step.facts["reverses"]).update(
                state=SettleStep.State.UNDONE
            )


def settle_made(step: SettleStep, came: Came) -> None:
    """Note what came of a column that was made again; the scores that are known go into it."""
    step.state, step.message = came.state, came.message[:500]
    if came.state == DONE and step.placement is not None:
        Placement.objects.filter(pk=step.placement.pk).update(column_url=came.there)
        fill_new_column(step.placement)


def settle_here(settlement: Settlement, step: SettleStep) -> None:
    """Do a step that writes nothing outside: a decision, a match, a link's graded item.

    Raises Refused.
    """
    if step.remedy == UNDO:
        _take_back(settlement, step)
    elif step.remedy in QUIETS:
        step.memory = _keep(settlement, step)
    elif step.remedy == MATCH:
        learner = Learner.objects.filter(
            pk=step.facts["learner"], shell=settlement.pairing.shell
        ).first()
        if learner is None:
            raise Refused(
                "unknown_learner",
                "The shell no longer lists this learner.",
                "Compare again.",
                409,
            )
        step.memory = {
            "match": (
                confirm_match(
                    settlement.pairing, learner, step.facts["account"], settlement.carried_by
                ).pk
            )
        }
    elif step.remedy == CLAIM:
        step.memory = _claim(step)
    elif step.remedy == TIE:
        step.memory = _tie(step)


def _keep(settlement: Settlement, step: SettleStep) -> dict[str, Any]:
    """Keep a finding as it is; return the word that was there before, for an undo."""
    before = Keep.objects.filter(pairing=settlement.pairing, key=step.key).first()
    said = {
        "publisher": step.publisher,
        "gradebook": step.before,
        "made_by": settlement.carried_by,
        "made_at": timezone.now(),
    }
    Keep.objects.update_or_create(pairing=settlement.pairing, key=step.key, defaults=said)
    return {
        "keep": {"publisher": before.publisher, "gradebook": before.gradebook} if before else None
    }


def _take_back(settlement: Settlement, step: SettleStep) -> None:
    original = SettleStep.objects.get(pk=step.facts["reverses"])
    if original.remedy == MATCH:
        found = LearnerMatch.objects.filter(pk=original.memory.get("match")).first()
        if found is not None:
            undo_match(settlement.pairing, found, settlement.carried_by)
    elif original.remedy == CLAIM:
        Placement.objects.filter(
            pk__in=[original.placement_id], column_url=original.facts["column"]
        ).update(column_url=original.memory["column"])
    elif original.remedy == TIE:
        Item.objects.filter(
            placement=original.placement_id, line_item=original.facts["line_item"]
        ).update(line_item=original.memory["line_item"])
    else:
        Keep.objects.filter(pairing=settlement.pairing, key=step.key).delete()
        if said := original.memory.get("keep"):
            Keep.objects.create(
                pairing=settlement.pairing, key=step.key, made_by=settlement.carried_by, **said
            )
    SettleStep.objects.filter(pk=original.pk).update(state=SettleStep.State.UNDONE)


def _claim(step: SettleStep) -> ColumnClaimed:
    """Let a placement have the column that stands for its lost one.

    Return the address before, for an undo.
    """
    placement, column = step.placement, step.facts["column"]
    if (
        placement is None
        or Placement.objects.filter(pairing=placement.pairing, column_url=column).exists()
    ):
        raise Refused(
            "column_taken", "That column belongs to a placement by now.", "Compare again.", 409
        )
    Placement.objects.filter(pk=placement.pk).update(column_url=column)
    enqueue_relay(placement.pairing_id)
    return ColumnClaimed(column=placement.column_url)


def _tie(step: SettleStep) -> ItemTied:
    """Let a placed link be a graded item of the publisher; return what it was, for an undo."""
    placement = step.placement
    if placement is None or placement.item.line_item:
        raise Refused(
            "tied_already", "That link has its graded item by now.", "Compare again.", 409
        )
    before = placement.item.line_item
    Item.objects.filter(pk=placement.item_id).update(line_item=step.facts["line_item"][:255])
    return ItemTied(line_item=before)


def _remember(step: SettleStep, at: datetime) -> None:
    """Let the relay know what is in the cell now, and the ledger what the publisher never
    reported.
    """
    if step.placement is None or step.person is None:
        return
    emptied = step.facts["given"] is None
    sent = step.memory if step.remedy == UNDO else ({} if emptied else step.facts)
    report = step.facts.get("report")
    if report and not _reported(step, report):
        score = Score(
            str(step.person.pk),
            moment_of(report["at"], at),
            Decimal(report["given"]),
            Decimal(report["maximum"]),
        )
        receive_score(step.placement, step.person, score, LedgerEntry.Via.PULL)
    fields = {
        "state": Cell.State.ACCEPTED if sent else Cell.State.EMPTY,
        "sent_given": sent.get("given"),
        "sent_maximum": sent.get("maximum"),
        "sent_timestamp": at,
        "sent_at": at,
        **{name: "" for name in ("why", "reason", "remedy", "again")},
        **{name: None for name in ("until", "since", "failing_since")},
        "tries": 0,
        "in_doubt": False,
    }
    cell, made = Cell.objects.get_or_create(
        placement=step.placement,
        learner=step.person,
        defaults={"pairing": step.job.pairing, **fields},
    )
    if not made:
        Cell.objects.filter(pk=cell.pk).update(revision=F("revision") + 1, changed_at=at, **fields)
    Passage.objects.create(
        pairing=step.job.pairing,
        cell=cell,
        what=Passage.What.SETTLED,
        at=at,
        given=step.facts["given"],
        maximum=step.facts["maximum"],
        words=_story(step)[:500],
    )


def _reported(step: SettleStep, report: dict[str, str]) -> bool:
    newest = (
        LedgerEntry.objects.filter(
            placement=step.placement, learner=step.person, given__isnull=False
        )
        .order_by("-timestamp", "-pk")
        .first()
    )
    return newest is not None and newest.given == Decimal(report["given"])


def _story(step: SettleStep) -> str:
    before, after = (
        step.before if step.before is not None else "nothing",
        step.after if step.after is not None else "nothing",
    )
    return (
        f"{'Undone' if step.remedy == UNDO else 'Settled from a comparison'}: {before} became"
        f" {after}."
    )


def _deployed(step: SettleStep) -> None:
    placement, name = step.placement, _FIELD[step.kind]
    if placement is None:
        return
    value: Any = step.after or ""
    if placement.seen and not (
        step.kind == "title_differs" or (step.kind == "due_differs" and placement.shift_days)
    ):
        placement.seen = {**placement.seen, name: value}
    setattr(placement, name, Decimal(value) if name == "points" else value)
    placement.save(update_fields=[name, "seen"])
