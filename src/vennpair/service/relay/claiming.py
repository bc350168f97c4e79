"""Take what is due: decide each cell by its rule and the ledger, and mark what is sent now."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.deploy.dates import shown
from vennpair.core.failures import Failure
from vennpair.core.pair.states import relays
from vennpair.core.reconcile.cells import Mark
from vennpair.core.relay.decide import Counted, Report, SentScore, Verdict, counting, stamp, to_send, verdict
from vennpair.core.relay.timing import Opening, opening, why_held
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.models import Cell, LedgerEntry
from vennpair.service.relay.rules_of import Placed, placed_with_rules
from vennpair.service.relay.waking import due_cells
from vennpair.standards.lti.grades import Score

ROSTER_AGAIN = timedelta(hours=1)
MOST_MAYBE = 20
_WITHDRAWN = "The publisher took back a score that was sent; the gradebook still holds it."


@dataclass(frozen=True, slots=True)
class Sending:
    """A cell on its way with the score that counts; ``failure`` once something came in between."""

    cell: Cell
    score: Score
    entry: int
    arrived: datetime
    failure: Failure | None = None

    @property
    def column(self) -> str:
        """Return the address of its column."""
        return str(self.cell.placement.column_url)


@dataclass(frozen=True, slots=True)
class _Decision:
    state: str
    why: str = ""
    until: datetime | None = None
    reason: str = ""
    remedy: str = ""


def claim(pairing: Pairing, most: int, flying: Collection[int]) -> list[Sending]:
    """Decide up to ``most`` cells that are due, other than those in flight; return those to send. Others are kept with why."""
    now = timezone.now()
    with transaction.atomic():
        if hold_if_off(pairing):
            return []
        due = Cell.objects.filter(due_cells(now), pairing=pairing).exclude(placement__column_url="").exclude(pk__in=flying)
        cells = list(due.select_for_update(of=("self",)).select_related("learner").order_by("placement_id", "pk")[:most])
        if not cells:
            return []
        placed, entries = placed_with_rules(pairing), entries_of(pairing, cells)
        sending: list[Sending] = []
        kept: dict[_Decision, list[int]] = defaultdict(list)
        for cell in cells:
            cell.placement = placed[cell.placement_id].placement
            decided = _decide(cell, placed[cell.placement_id], entries[cell.placement_id, cell.learner_id], pairing.shell.zone, now)
            if isinstance(decided, Sending):
                sending.append(decided)
            else:
                kept[decided].append(cell.pk)
        _keep(kept)
        _mark_sending(sending, now)
    return sending


def _mark_sending(sending: list[Sending], now: datetime) -> None:
    """Mark what is sent before it goes out: a worker that is killed, or an answer that is lost, leaves known what may stand there."""
    for each in sending:
        cell, mark = each.cell, [plain_score(each.score.given), plain_score(each.score.maximum)]
        if each.score.given is not None and mark not in cell.maybe:
            cell.maybe = [*cell.maybe[-MOST_MAYBE:], mark]
        cell.state, cell.until, cell.why, cell.changed_at = Cell.State.SENDING, None, "", now
    Cell.objects.bulk_create([each.cell for each in sending], update_conflicts=True, unique_fields=["id"], update_fields=["state", "until", "why", "maybe", "changed_at"])


def plain_score(value: Decimal | None) -> str | None:
    """Return a score without trailing zeros."""
    return None if value is None else f"{value.normalize():f}"


def hold_if_off(pairing: Pairing) -> bool:
    """Where the relay is off or the pairing is not live, keep all that waits, and say so."""
    pairing.refresh_from_db(fields=["state", "relay_on"])
    if relays(pairing.state) and pairing.relay_on:
        return False
    why = "off" if relays(pairing.state) else "paused"
    Cell.objects.filter(pairing=pairing, state=Cell.State.WAITING).update(state=Cell.State.HELD, why=why, until=None, reason=why_held(why, ""), remedy="")
    return True


def _keep(kept: dict[_Decision, list[int]]) -> None:
    for each, ids in kept.items():
        done = {"since": None} if each.state in {Cell.State.ACCEPTED, Cell.State.EMPTY, Cell.State.WITHDRAWN} else {}
        Cell.objects.filter(pk__in=ids).update(state=each.state, why=each.why, until=each.until, reason=each.reason, remedy=each.remedy, again="", **done)


def entries_of(pairing: Pairing, cells: Iterable[Cell]) -> dict[tuple[Any, Any], list[LedgerEntry]]:
    """Return the ledger of cells, in the order of arrival, by placement and learner."""
    found: dict[tuple[Any, Any], list[LedgerEntry]] = defaultdict(list)
    wanted = {(each.placement_id, each.learner_id) for each in cells}
    placements, learners = {placement for placement, _ in wanted}, {learner for _, learner in wanted}
    for entry in LedgerEntry.objects.filter(pairing=pairing, placement__in=placements, learner__in=learners).order_by("pk"):
        if (entry.placement_id, entry.learner_id) in wanted:
            found[entry.placement_id, entry.learner_id].append(entry)
    return found


def report_of(entry: LedgerEntry) -> Report:
    """Return a ledger's entry as the rules see it."""
    return Report(entry.pk, entry.timestamp, entry.given, entry.maximum, entry.grading == "FullyGraded", entry.received_at, entry.submitted_at, entry.activity == "Initialized")


def sent_of(cell: Cell) -> SentScore | None:
    """Return what the platform last accepted for a cell."""
    if cell.sent_timestamp is None or cell.sent_given is None or cell.sent_maximum is None:
        return None
    return SentScore(cell.sent_timestamp, cell.sent_given.normalize(), cell.sent_maximum.normalize())


def _decide(cell: Cell, placed: Placed, entries: list[LedgerEntry], zone: str, now: datetime) -> Sending | _Decision:
    rule = placed.rule
    if not rule.relays:
        return _held("not_relayed", None, zone)
    if not cell.learner.active:
        return _held("dropped" if cell.learner.listed_at else "not_in_roster", now + ROSTER_AGAIN, zone)
    reports = [report_of(entry) for entry in entries]
    openings = {each.entry: opening(rule, each, placed.placement.due_date, placed.released, zone) for each in reports}
    may_go = [each for each in reports if cell.forced or _open(openings[each.entry], now)]
    counted, newest = counting(may_go, rule.counts), counting(reports, rule.counts)
    sent, standing = sent_of(cell), _standing(cell)
    if counted is not None:
        mark = None if counted.given is None else to_send(counted, rule, placed.points)
        wanted = verdict(_plain(mark), sent, force=bool(cell.again))
        if wanted is Verdict.SEND and mark is not None:
            return _sending(cell, counted, mark, entries, placed, sent)
        standing = _Decision(Cell.State.WITHDRAWN, reason=_WITHDRAWN, remedy="Compare the pairing; keep it or clear it there.") if wanted is Verdict.WITHDRAWN else standing
    elif rule.statuses and sent is None and newest is None and entries and _progress(entries[-1]) != cell.status_sent:
        last = entries[-1]
        return Sending(cell, Score(cell.learner.subject, last.timestamp, None, None, last.activity, last.grading, "", last.submitted_at), last.pk, last.received_at)
    if newest is not None and newest != counted:
        held = openings[newest.newest]
        return _held(held.why, held.at, zone)
    return standing


def _sending(cell: Cell, counted: Counted, mark: Mark, entries: list[LedgerEntry], placed: Placed, sent: SentScore | None) -> Sending:
    entry = next(each for each in entries if each.pk == counted.newest)
    comment = entry.comment if placed.rule.comments else ""
    # A score forced back into a cell that somebody typed over must be newer than what stands there.
    when = timezone.now() if cell.forced else stamp(counted, sent)
    score = Score(cell.learner.subject, when, mark.score, mark.points, entry.activity, "FullyGraded", comment, entry.submitted_at)
    return Sending(cell, score, entry.pk, entry.received_at)


def _standing(cell: Cell) -> _Decision:
    return _Decision(Cell.State.ACCEPTED if cell.sent_at else Cell.State.EMPTY)


def _held(why: str, until: datetime | None, zone: str) -> _Decision:
    return _Decision(Cell.State.HELD, why, until, why_held(why, shown(until.isoformat(), zone) if until else ""))


def _open(each: Opening, now: datetime) -> bool:
    return each.at is not None and each.at <= now


def _plain(mark: Mark | None) -> Mark | None:
    return None if mark is None else Mark(mark.score.normalize(), mark.points.normalize() if mark.points else mark.points)


def _progress(entry: LedgerEntry) -> str:
    return f"{entry.activity}/{entry.grading}"
