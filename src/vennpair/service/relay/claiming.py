"""Take what is due: decide each cell by its rule and the ledger, and mark what is sent now."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime, timedelta
from decimal import Decimal
from typing import Any, NamedTuple

from django.db import transaction
from django.utils import timezone

from vennpair.core.deploy.dates import shown
from vennpair.core.failures import Failure
from vennpair.core.pair.states import relays
from vennpair.core.reconcile.cells import Mark
from vennpair.core.relay.decide import (
    Counted,
    Report,
    SentScore,
    Verdict,
    counting,
    stamp,
    to_send,
    verdict,
)
from vennpair.core.relay.timing import Opening, opening, why_held
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.due_dates import due_of
from vennpair.service.relay.models import Cell, LedgerEntry
from vennpair.service.relay.rule_lookup import Placed, placed_with_rules
from vennpair.service.relay.scheduling import due_cells, locked
from vennpair.standards.lti.grades import Score

ROSTER_AGAIN = timedelta(hours=1)
_WITHDRAWN = "The publisher withdrew a score that was sent; the gradebook still holds it."


class Due(NamedTuple):
    """What deciding needs to know of a cell: plain values, as thousands are read and few are ever
    changed as objects.
    """

    pk: int
    placement: Any
    learner: Any
    state: str
    again: str
    revision: int
    in_doubt: bool
    status_sent: str
    sent_given: Decimal | None
    sent_maximum: Decimal | None
    sent_timestamp: datetime | None
    subject: str
    active: bool
    listed_at: datetime | None

    @property
    def forced(self) -> bool:
        """Say whether it is to be sent whatever is there."""
        return self.again == Cell.Again.FORCE

    @property
    def sent(self) -> SentScore | None:
        """Return what the platform last accepted."""
        if self.sent_timestamp is None or self.sent_given is None or self.sent_maximum is None:
            return None
        return SentScore(
            self.sent_timestamp, self.sent_given.normalize(), self.sent_maximum.normalize()
        )


_READ = (
    "pk",
    "placement_id",
    "learner_id",
    "state",
    "again",
    "revision",
    "in_doubt",
    "status_sent",
    "sent_given",
    "sent_maximum",
    "sent_timestamp",
    "learner__subject",
    "learner__active",
    "learner__listed_at",
)


@dataclass(frozen=True, slots=True)
class Decision:
    """The state of a cell, what it waits for, and until when."""

    state: str
    why: str = ""
    until: datetime | None = None
    reason: str = ""
    remedy: str = ""


ACCEPTED = Decision(Cell.State.ACCEPTED)


@dataclass(frozen=True, slots=True)
class Sending:
    """A cell on its way with the score that counts; ``failure`` once something came in between.

    ``maybe``: what may be there of ours, where an answer was lost. ``after``: the cell's state
    once it is accepted; held, where something newer may not go yet.
    """

    due: Due
    score: Score
    entry: int
    arrived: datetime
    column: str
    title: str
    maybe: tuple[Mark, ...] = ()
    after: Decision = ACCEPTED
    failure: Failure | None = None


def claim(pairing: Pairing, most: int, flying: Collection[int]) -> list[Sending]:
    """Decide up to ``most`` cells that are due, other than those in flight; return those to send.

    Others are kept with why.
    """
    now = timezone.now()
    with transaction.atomic():
        if hold_if_off(pairing):
            return []
        due = (
            Cell.objects.filter(due_cells(now), pairing=pairing)
            .exclude(placement__column_url="")
            .exclude(pk__in=flying)
        )
        cells = [
            Due(*row)
            for row in due.select_for_update(of=("self",))
            .order_by("placement_id", "pk")
            .values_list(*_READ)[:most]
        ]
        if not cells:
            return []
        placed, reports = (
            placed_with_rules(pairing),
            reports_of(pairing, {(each.placement, each.learner) for each in cells}),
        )
        sending: list[Sending] = []
        kept: dict[Decision, list[int]] = defaultdict(list)
        for each in cells:
            decided = _decide(
                each,
                placed[each.placement],
                reports[each.placement, each.learner],
                pairing.shell.zone,
                now,
            )
            if isinstance(decided, Sending):
                sending.append(decided)
            else:
                kept[decided].append(each.pk)
        _keep(kept)
        Cell.objects.filter(pk__in=[each.due.pk for each in sending]).update(
            state=Cell.State.SENDING, until=None, why=""
        )
    return sending


def plain_score(value: Decimal | None) -> str | None:
    """Return a score without trailing zeros."""
    return None if value is None else f"{value.normalize():f}"


def hold_if_off(pairing: Pairing) -> bool:
    """Where the relay is off or the pairing is not live, keep all that waits, and say so."""
    pairing.refresh_from_db(fields=["state", "relay_on"])
    if relays(pairing.state) and pairing.relay_on:
        return False
    why = "off" if relays(pairing.state) else "paused"
    with transaction.atomic():
        waiting = [
            pk for pk, _ in locked(Cell.objects.filter(pairing=pairing, state=Cell.State.WAITING))
        ]
        Cell.objects.filter(pk__in=waiting).update(
            state=Cell.State.HELD, why=why, until=None, reason=why_held(why, ""), remedy=""
        )
    return True


def _keep(kept: dict[Decision, list[int]]) -> None:
    for each, ids in kept.items():
        done = (
            {"since": None}
            if each.state in {Cell.State.ACCEPTED, Cell.State.EMPTY, Cell.State.WITHDRAWN}
            else {}
        )
        Cell.objects.filter(pk__in=ids).update(
            state=each.state,
            why=each.why,
            until=each.until,
            reason=each.reason,
            remedy=each.remedy,
            again="",
            **done,
        )


def reports_of(
    pairing: Pairing, wanted: Collection[tuple[Any, Any]]
) -> dict[tuple[Any, Any], list[Report]]:
    """Return the ledger of cells as the rules see it, in the order of arrival, by placement and
    learner.
    """
    found: dict[tuple[Any, Any], list[Report]] = defaultdict(list)
    placements, learners = (
        {placement for placement, _ in wanted},
        {learner for _, learner in wanted},
    )
    rows = LedgerEntry.objects.filter(
        pairing=pairing, placement__in=placements, learner__in=learners
    ).order_by("pk")
    for (
        placement,
        learner,
        pk,
        timestamp,
        given,
        maximum,
        grading,
        received,
        submitted,
        activity,
        comment,
    ) in rows.values_list(*_ENTRY):
        if (placement, learner) in wanted:
            found[placement, learner].append(
                Report(
                    pk,
                    timestamp,
                    given,
                    maximum,
                    grading == "FullyGraded",
                    received,
                    submitted,
                    activity,
                    grading,
                    comment,
                )
            )
    return found


_ENTRY = (
    "placement_id",
    "learner_id",
    "pk",
    "timestamp",
    "given",
    "maximum",
    "grading",
    "received_at",
    "submitted_at",
    "activity",
    "comment",
)


def _decide(
    due: Due, placed: Placed, reports: list[Report], zone: str, now: datetime
) -> Sending | Decision:
    rule = placed.rule
    if not rule.relays:
        return _held("not_relayed", None, zone)
    if not due.active:
        return _held("dropped" if due.listed_at else "not_in_roster", now + ROSTER_AGAIN, zone)
    openings = {
        each.entry: opening(rule, each, due_of(placed.placement, zone), placed.released, zone)
        for each in reports
    }
    may_go = [each for each in reports if due.forced or _open(openings[each.entry], now)]
    newest = counting(reports, rule.counts)
    counted = newest if len(may_go) == len(reports) else counting(may_go, rule.counts)
    sent, standing = (
        due.sent,
        Decision(Cell.State.ACCEPTED if due.sent_timestamp else Cell.State.EMPTY),
    )
    if counted is not None:
        mark = None if counted.given is None else to_send(counted, rule, placed.points)
        wanted = verdict(_plain(mark), sent, force=bool(due.again))
        if wanted is Verdict.SEND and mark is not None:
            after = _later(
                newest,
                counted,
                openings,
                placed,
                SentScore(counted.timestamp, mark.score, mark.points or mark.score),
                zone,
            )
            return _sending(due, counted, mark, reports, placed, after or ACCEPTED)
        standing = (
            Decision(
                Cell.State.WITHDRAWN,
                reason=_WITHDRAWN,
                remedy="Compare the pairing; keep it or clear it there.",
            )
            if wanted is Verdict.WITHDRAWN
            else standing
        )
    elif newest is None and (status := _status(due, placed, reports, now)) is not None:
        return status
    return _later(newest, counted, openings, placed, sent, zone) or standing


def _status(due: Due, placed: Placed, reports: list[Report], now: datetime) -> Sending | None:
    """Return the learner's progress without a score, where it is wanted and not known there yet."""
    if not placed.rule.statuses or due.sent is not None or not reports:
        return None
    last = reports[-1]
    if last.progress == due.status_sent:
        return None
    score = Score(
        due.subject, last.timestamp, None, None, last.activity, last.grading, "", last.submitted
    )
    return Sending(
        due,
        score,
        last.entry,
        last.arrived or now,
        placed.placement.column_url,
        placed.placement.title,
    )


def _later(
    newest: Counted | None,
    counted: Counted | None,
    openings: dict[int, Opening],
    placed: Placed,
    sent: SentScore | None,
    zone: str,
) -> Decision | None:
    """Return what the newest reports wait for, where they may not go yet and say anything that the
    gradebook does not have.
    """
    if newest is None or newest == counted:
        return None
    mark = None if newest.given is None else to_send(newest, placed.rule, placed.points)
    if verdict(_plain(mark), sent) is Verdict.NOTHING:
        return None
    held = openings[newest.newest]
    return _held(held.why, held.at, zone)


def _sending(
    due: Due, counted: Counted, mark: Mark, reports: list[Report], placed: Placed, after: Decision
) -> Sending:
    entry = next(each for each in reports if each.entry == counted.newest)
    comment = entry.comment if placed.rule.comments else ""
    # A score forced back into a cell that somebody typed over must be newer than what is there.
    when = timezone.now() if due.forced else stamp(counted, due.sent)
    score = Score(
        due.subject,
        when,
        mark.score,
        mark.points,
        entry.activity,
        "FullyGraded",
        comment,
        entry.submitted,
    )
    maybe: tuple[Mark, ...] = ()
    if (
        due.in_doubt or due.state == Cell.State.SENDING
    ):  # an answer was lost, or its worker was killed
        maybe = tuple(
            to_send(
                Counted(each.given, each.maximum, each.timestamp, ()), placed.rule, placed.points
            )
            for each in reports
            if each.given is not None
        )
    return Sending(
        due,
        score,
        entry.entry,
        entry.arrived or when,
        placed.placement.column_url,
        placed.placement.title,
        maybe,
        after,
    )


def _held(why: str, until: datetime | None, zone: str) -> Decision:
    return Decision(
        Cell.State.HELD, why, until, why_held(why, shown(until.isoformat(), zone) if until else "")
    )


def _open(each: Opening, now: datetime) -> bool:
    # What waits for nothing is open, whatever this clock says: it may have come while we waited for
    # its row.
    return each.at is not None and (not each.why or each.at <= now)


def _plain(mark: Mark | None) -> Mark | None:
    return (
        None
        if mark is None
        else Mark(mark.score.normalize(), mark.points.normalize() if mark.points else mark.points)
    )
