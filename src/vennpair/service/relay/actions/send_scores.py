"""Send what waits in a pairing: decide each cell, claim a batch, look, send, read back, settle."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.failures import Failure, FailureKind
from vennpair.core.pair.states import relays
from vennpair.core.relay.decide import Report, SentScore, Verdict, counting, verdict
from vennpair.service.ops.locks import only_one
from vennpair.service.ops.queue import RELAY_PAIRING, enqueue
from vennpair.service.pair.consent import agreed, shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.actions.columns import CLASH, Sending, look_first, read_back, send
from vennpair.service.relay.models import Cell, LedgerEntry
from vennpair.standards.lti.grades import Score

BATCH, IN_FLIGHT = 100, 16
MOST_TRIES = 60
_OPEN = [Cell.State.WAITING, Cell.State.SENDING, Cell.State.HELD]


def enqueue_relay(pairing: Any, seconds: float = 0) -> None:
    """Enqueue one relay of a pairing in the caller's transaction; ten scores at once need only one."""
    enqueue(RELAY_PAIRING, lock=f"relay:{pairing.pk}:{'later' if seconds else 'now'}", seconds=seconds, pairing_id=str(pairing.pk))


def take_up_relays() -> int:
    """Enqueue every pairing that has something waiting; for a worker that starts."""
    pairings = Pairing.objects.filter(placements__cells__state__in=[Cell.State.WAITING, Cell.State.SENDING]).distinct()
    for pairing in pairings:
        enqueue_relay(pairing)
    return len(pairings)


def send_scores(pairing_id: str) -> float | None:
    """Send all that is due in a pairing; return the seconds until the next try, if any waits.

    Raises Busy where another worker does it at this moment.
    """
    pairing = Pairing.objects.select_related("shell__platform__institution", "course__publisher").get(pk=pairing_id)
    if not relays(pairing.state) or not agreed(pairing.shell):
        return None  # all is kept; resuming, or agreeing and resuming, enqueues it again
    gateway = shell_gateway(pairing.shell)
    with only_one(f"relay:{pairing_id}"), ThreadPoolExecutor(IN_FLIGHT) as threads:
        while batch := _claim(pairing):
            looked = look_first(gateway, threads, batch)
            sent = list(threads.map(lambda each: send(gateway, each), looked))
            _settle(read_back(gateway, threads, sent))
    waiting = Cell.objects.filter(placement__pairing=pairing, state=Cell.State.WAITING).order_by("next_try").first()
    return max(1.0, (waiting.next_try - timezone.now()).total_seconds()) if waiting and waiting.next_try else None


def _claim(pairing: Pairing) -> list[Sending]:
    """Decide what is due; mark what is sent now. A cell left in ``sending`` was a killed worker's."""
    with transaction.atomic():
        relaying = Pairing.objects.filter(pk=pairing.pk, relay_on=True).exists() and relays(Pairing.objects.get(pk=pairing.pk).state)
        due = Cell.objects.select_for_update(of=("self",)).filter(placement__pairing=pairing, state__in=_OPEN).exclude(placement__column_url="")
        due = due.exclude(state=Cell.State.WAITING, next_try__gt=timezone.now()).select_related("placement", "learner").order_by("pk")
        batch: list[Sending] = []
        for cell in due if relaying else due.exclude(state=Cell.State.HELD):
            if len(batch) == BATCH:
                break
            entry = _counting_entry(cell)
            decided = verdict(_report(entry), _sent(cell), relaying=relaying, force=cell.force)
            cell.state = {Verdict.SEND: Cell.State.SENDING, Verdict.HELD: Cell.State.HELD, Verdict.NOTHING: Cell.State.ACCEPTED if cell.sent_at else Cell.State.EMPTY}[decided]
            cell.save(update_fields=["state", "changed_at"])
            if decided is Verdict.SEND and entry is not None:
                batch.append(Sending(cell, Score(cell.learner.subject, entry.timestamp, entry.given, entry.maximum, entry.activity, entry.grading, entry.comment)))
    return batch


def _counting_entry(cell: Cell) -> LedgerEntry | None:
    entries = {entry.pk: entry for entry in LedgerEntry.objects.filter(placement=cell.placement, learner=cell.learner)}
    best = counting([report for entry in entries.values() if (report := _report(entry))])
    return entries[best.entry] if best else None


def _report(entry: LedgerEntry | None) -> Report | None:
    return Report(entry.pk, entry.timestamp, entry.given, entry.maximum, entry.grading == "FullyGraded") if entry else None


def _sent(cell: Cell) -> SentScore | None:
    if cell.sent_timestamp is None or cell.sent_given is None or cell.sent_maximum is None:
        return None
    return SentScore(cell.sent_timestamp, cell.sent_given, cell.sent_maximum)


def _settle(sent: Sequence[Sending]) -> None:
    now = timezone.now()
    with transaction.atomic():
        for each in sent:
            cell, failure = each.cell, each.failure
            if failure is None:
                cell.state, cell.reason, cell.remedy, cell.tries, cell.next_try, cell.force = Cell.State.ACCEPTED, "", "", 0, None, False
                cell.sent_given, cell.sent_maximum = each.score.given, each.score.maximum
                cell.sent_timestamp, cell.sent_at = each.score.timestamp, now
            else:
                _settle_failure(cell, failure, now)
            if LedgerEntry.objects.filter(placement=cell.placement, learner=cell.learner, timestamp__gt=each.score.timestamp).exists():
                cell.state, cell.next_try = Cell.State.WAITING, None  # a newer report came meanwhile
            cell.save()


def _settle_failure(cell: Cell, failure: Failure, now: Any) -> None:
    cell.reason, cell.remedy, cell.tries = failure.message[:500], failure.remedy[:500], cell.tries + 1
    if failure.kind is FailureKind.LATER and cell.tries < MOST_TRIES:
        wait = failure.retry_after or min(2.0**cell.tries, 3600)
        cell.state, cell.next_try = Cell.State.WAITING, now + timedelta(seconds=wait)
    else:
        cell.state, cell.next_try = (Cell.State.CLASH if failure.code == CLASH else Cell.State.REFUSED), None


def plain_score(value: Decimal | None) -> str | None:
    """Return a stored score without trailing zeros."""
    return None if value is None else f"{value.normalize():f}"
