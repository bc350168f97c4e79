"""Write down what became of scores: cells as they stand now, and a line of each one's story."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from random import random
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.failures import Failure, FailureKind
from vennpair.core.relay.pace import Pace, next_try
from vennpair.service.pair.models import Pairing, Shell
from vennpair.service.relay.calls import CLASH, NO_COLUMN, NO_LEARNER
from vennpair.service.relay.claiming import ROSTER_AGAIN, Sending
from vennpair.service.relay.models import Cell, Passage

SETTING_AGAIN = timedelta(hours=1)
_WRITTEN = ["state", "why", "reason", "remedy", "until", "since", "tries", "failing_since", "again", "maybe", "status_sent", "sent_given", "sent_maximum", "sent_timestamp", "sent_at", "changed_at"]
_IN_VAIN = "It was tried for three days."


@dataclass(frozen=True, slots=True)
class Settled:
    """A cell whose call came back: with a failure, or accepted; ``read_back`` where it was only looked at again."""

    sending: Sending
    failure: Failure | None
    read_back: bool = False


def settle(pairing: Pairing, outcomes: Sequence[Settled], pace: Pace) -> None:
    """Write outcomes in one transaction; a cell for which something newer came meanwhile waits again."""
    now = timezone.now()
    with transaction.atomic():
        ids = {each.sending.cell.pk for each in outcomes}
        current = dict(Cell.objects.select_for_update(of=("self",)).filter(pk__in=ids).order_by("pk").values_list("pk", "revision"))
        cells: dict[int, Cell] = {}
        passages: list[Passage] = []
        for each in outcomes:
            cell = each.sending.cell
            passages.append(_passage(pairing, each, now))
            if each.read_back:
                continue
            _apply(cell, each, pace, now)
            if current[cell.pk] != cell.revision and cell.state != Cell.State.WAITING:
                cell.state, cell.until, cell.since = Cell.State.WAITING, None, cell.since or now
            cells[cell.pk] = cell
        Passage.objects.bulk_create(passages)
        # One statement for all; the row is there, so the conflict is what is meant.
        Cell.objects.bulk_create(list(cells.values()), update_conflicts=True, unique_fields=["id"], update_fields=_WRITTEN)
        for each in outcomes:
            if each.read_back and each.failure is not None:
                _not_shown(each, each.failure)
        for failure, cell in {each.failure.code: (each.failure, each.sending.cell) for each in outcomes if each.failure}.values():
            _beyond(pairing, cell, failure, now)


def put_back(sendings: Sequence[Sending]) -> None:
    """Let wait again what was claimed and not begun."""
    ids = [each.cell.pk for each in sendings]
    Cell.objects.filter(pk__in=ids, state=Cell.State.SENDING).update(state=Cell.State.WAITING)


def _apply(cell: Cell, each: Settled, pace: Pace, now: datetime) -> None:
    failure, score = each.failure, each.sending.score
    cell.changed_at = now
    if failure is not None:
        _apply_failure(cell, failure, pace, now)
        return
    cell.state, cell.why, cell.reason, cell.remedy, cell.tries = Cell.State.ACCEPTED, "", "", "", 0
    cell.until, cell.since, cell.failing_since, cell.again = None, None, None, ""
    if score.given is None:
        cell.state, cell.status_sent = Cell.State.EMPTY, f"{score.activity}/{score.grading}"
    else:
        cell.maybe = []
        cell.sent_given, cell.sent_maximum, cell.sent_timestamp, cell.sent_at = score.given, score.maximum, score.timestamp, now


def _apply_failure(cell: Cell, failure: Failure, pace: Pace, now: datetime) -> None:
    cell.reason, cell.remedy = failure.message[:500], failure.remedy[:500]
    if failure.kind is FailureKind.SETTING:
        cell.state, cell.why, cell.until = Cell.State.HELD, "setting", now + SETTING_AGAIN
    elif failure.code == NO_LEARNER:
        cell.state, cell.why, cell.until = Cell.State.HELD, "not_in_roster", now + ROSTER_AGAIN
    elif failure.kind is not FailureKind.LATER:
        cell.state, cell.until = (Cell.State.CLASH if failure.code == CLASH else Cell.State.REFUSED), None
    elif failure.code == "busy":
        cell.state, cell.until = Cell.State.WAITING, None  # the gate opens when the platform said
    else:
        cell.tries, cell.failing_since = cell.tries + 1, cell.failing_since or now
        again = next_try(cell.tries, cell.failing_since, now, random(), failure.retry_after)  # noqa: S311 - spreads tries, guards nothing
        cell.state, cell.until = Cell.State.WAITING, None if pace.down_since else again
        if again is None:
            cell.state, cell.remedy = Cell.State.REFUSED, f"{_IN_VAIN} Send it again once the platform answers."


def _not_shown(each: Settled, failure: Failure) -> None:
    """Mark a cell whose gradebook does not show what it accepted, unless something newer went there meanwhile."""
    cell = each.sending.cell
    stands = Cell.objects.filter(pk=cell.pk, state=Cell.State.ACCEPTED, sent_timestamp=each.sending.score.timestamp)
    stands.update(state=Cell.State.REFUSED, reason=failure.message[:500], remedy=failure.remedy[:500])


def _passage(pairing: Pairing, each: Settled, now: datetime) -> Passage:
    sending, failure = each.sending, each.failure
    if failure is None:
        what = Passage.What.CHECKED if each.read_back else (Passage.What.ACCEPTED if sending.score.given is not None else Passage.What.TOLD)
    else:
        what = Passage.What.CLASH if failure.code == CLASH else (Passage.What.FAILED if failure.kind is FailureKind.LATER else Passage.What.REFUSED)
    lag = int((now - sending.arrived).total_seconds() * 1000) if what == Passage.What.ACCEPTED else None
    return Passage(
        pairing=pairing,
        cell=sending.cell,
        entry_id=sending.entry,
        what=what,
        at=now,
        given=sending.score.given,
        maximum=sending.score.maximum,
        lag_ms=None if lag is None else max(0, min(lag, 2**31 - 1)),
        words=failure.message[:500] if failure else "",
    )


def _beyond(pairing: Pairing, cell: Cell, failure: Failure, now: datetime) -> None:
    """What a failure means for other cells than its own."""
    fields: dict[str, Any] = {"reason": failure.message[:500], "remedy": failure.remedy[:500]}
    on_their_way = Cell.objects.filter(pairing=pairing, state__in=[Cell.State.WAITING, Cell.State.SENDING])
    if failure.code == NO_COLUMN:
        on_their_way.filter(placement_id=cell.placement_id).update(state=Cell.State.REFUSED, until=None, **fields)
    elif failure.kind is FailureKind.SETTING:
        on_their_way.update(state=Cell.State.HELD, why="setting", until=now + SETTING_AGAIN, **fields)
    elif failure.code == NO_LEARNER:
        Shell.objects.filter(pk=pairing.shell_id).update(roster_at=None)  # it is not what we took it for: read it again
