"""Waking the sender: one job a pairing is enough, and none comes too early to see what it was woken
for.

A report is written, then the queue is looked at: where a job waits already, none is added. A worker
might take that job before the report is committed and find nothing; so before it looks, it waits
for all who are writing a report of the pairing. They hold the pairing's row from their first
statement on (its foreign key alone would hold it only while they commit), and it asks for that row
once. Whoever else locks a pairing does it with ``no_key``: a lock that writers had to wait for,
held by somebody who waits for the queue, would be a deadlock.
"""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from typing import Any

from django.db import transaction
from django.db.models import Case, F, Q, QuerySet, Value, When
from procrastinate.contrib.django.models import ProcrastinateJob

from vennpair.service.kernel.jobs.queue import RELAY_PAIRING, enqueue
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.models import Cell


def enqueue_relay(pairing_id: Any, seconds: float = 0) -> None:
    """Enqueue one relay of a pairing in the caller's transaction.

    Ten scores at once need only one.
    """
    lock = f"relay:{pairing_id}:{'later' if seconds else 'now'}"
    if not ProcrastinateJob.objects.filter(queueing_lock=lock, status="todo").exists():
        enqueue(RELAY_PAIRING, lock=lock, seconds=seconds, pairing_id=str(pairing_id))


def wait_for_writers(pairing_id: Any) -> None:
    """Return once every report that was being written when this was called is there to be seen."""
    with transaction.atomic():
        Pairing.objects.select_for_update(of=("self",)).filter(pk=pairing_id).values_list(
            "pk", flat=True
        ).first()


def wake(cells: QuerySet[Cell], **changes: Any) -> int:
    """Let cells be decided again, in the caller's transaction; return how many.

    ``changes`` are set beside it.
    """
    found = locked(cells)
    pairings = {pairing_id for _, pairing_id in found}
    count = Cell.objects.filter(pk__in=[pk for pk, _ in found]).update(
        state=Cell.State.WAITING,
        **interrupted(),
        until=None,
        tries=0,
        why="",
        reason="",
        remedy="",
        failing_since=None,
        **changes,
    )
    for pairing_id in pairings:
        enqueue_relay(pairing_id)
    return count


def locked(cells: QuerySet[Cell]) -> list[tuple[int, Any]]:
    """Lock cells in the one order in which all do it, so that no two ever wait for each other.

    Return their ids and pairings.
    """
    return list(
        cells.select_for_update(of=("self",))
        .order_by("placement_id", "pk")
        .values_list("pk", "pairing_id")
    )


def interrupted() -> dict[str, Any]:
    """Return what to note in a cell whose sending may be under way: that something newer came, and
    that we do not know what is there.
    """
    return {
        "revision": F("revision") + 1,
        "in_doubt": Case(When(state=Cell.State.SENDING, then=Value(True)), default=F("in_doubt")),
    }


def due_cells(now: datetime) -> Q:
    """Return which cells are to be taken up now: waiting ones whose time has come, and what a
    killed worker left.
    """
    return (
        Q(state__in=[Cell.State.WAITING, Cell.State.HELD], until__lte=now)
        | Q(state=Cell.State.WAITING, until=None)
        | Q(state=Cell.State.SENDING)
    )


def take_up_relays(now: datetime) -> int:
    """Enqueue every live pairing that has something due, unless its platform is closed.

    Return how many.
    """
    due = Cell.objects.filter(
        due_cells(now), pairing__state=Pairing.State.LIVE, pairing__relay_on=True
    )
    due = due.exclude(pairing__shell__platform__pace__closed_until__gt=now)
    pairings = set(due.order_by().values_list("pairing_id", flat=True).distinct())
    for pairing_id in pairings:
        with transaction.atomic():
            enqueue_relay(pairing_id)
    return len(pairings)


def wake_returned(learners: Iterable[Any]) -> int:
    """Let go what was kept of learners who have come (back) into the course, in the caller's
    transaction.
    """
    return wake(
        Cell.objects.filter(
            learner__in=list(learners), state=Cell.State.HELD, why__in=["dropped", "not_in_roster"]
        )
    )
