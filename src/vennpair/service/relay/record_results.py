"""Write down what became of scores: cells as they are now, and a line of each one's story."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from random import random
from typing import Any

from django.db import connection, transaction
from django.utils import timezone

from vennpair.core.failures import Failure, FailureKind
from vennpair.core.relay.pace import Pace, next_try
from vennpair.gateways.hold import HELD
from vennpair.service.kernel.metrics import LAG, SENT
from vennpair.service.pair.models import Pairing, Shell
from vennpair.service.relay.calls import CLASH, NO_COLUMN, NO_LEARNER
from vennpair.service.relay.claiming import ROSTER_AGAIN, Sending
from vennpair.service.relay.models import Cell, Passage

SETTING_AGAIN = timedelta(hours=1)
_WRITTEN = [
    "state",
    "why",
    "reason",
    "remedy",
    "until",
    "since",
    "tries",
    "failing_since",
    "again",
    "in_doubt",
    "status_sent",
    "changed_at",
]
_IN_VAIN = "It was tried for three days."
_NOT_DONE = {
    "busy",
    "unreachable",
    "token",
    HELD,
}  # failures after which nothing of ours can be there
_ACCEPT = """
WITH seen AS (
  SELECT * FROM unnest(
    %(ids)s::bigint[], %(revisions)s::integer[], %(given)s::numeric[], %(maxima)s::numeric[],
    %(stamps)s::timestamptz[], %(entries)s::bigint[], %(lags)s::integer[], %(states)s::text[],
    %(whys)s::text[], %(untils)s::timestamptz[], %(reasons)s::text[]
  ) AS seen (id, revision, given, maximum, stamp, entry, lag, state, why, until, reason)
), told AS (
  INSERT INTO relay_passage (pairing_id, cell_id, entry_id, what, at, given, maximum, lag_ms, words)
  SELECT %(pairing)s::uuid, id, entry, 'accepted', %(now)s, given, maximum, lag, '' FROM seen
)
UPDATE relay_cell AS cell SET
  sent_given = seen.given, sent_maximum = seen.maximum, sent_timestamp = seen.stamp,
  sent_at = %(now)s, changed_at = %(now)s,
  tries = 0, failing_since = NULL, in_doubt = false, remedy = '',
  why = CASE WHEN cell.revision = seen.revision THEN seen.why ELSE '' END,
  reason = CASE WHEN cell.revision = seen.revision THEN seen.reason ELSE '' END,
  until = CASE WHEN cell.revision = seen.revision THEN seen.until END,
  state = CASE WHEN cell.revision = seen.revision THEN seen.state ELSE 'waiting' END,
  since = CASE WHEN cell.revision = seen.revision THEN NULL ELSE cell.since END,
  again = CASE WHEN cell.revision = seen.revision THEN '' ELSE cell.again END
FROM seen WHERE cell.id = seen.id
"""


@dataclass(frozen=True, slots=True)
class Settled:
    """A cell whose call came back: with a failure, or accepted.

    ``read_back`` where it was only looked at again.
    """

    sending: Sending
    failure: Failure | None
    read_back: bool = False


def settle(pairing: Pairing, outcomes: Sequence[Settled], pace: Pace) -> None:
    """Write outcomes in one transaction.

    A cell for which something newer came meanwhile waits again.
    """
    now = timezone.now()
    for each in outcomes:
        SENT.labels(pairing.shell.platform.name, str(_what(each))).inc()
    accepted = [
        each.sending
        for each in outcomes
        if each.failure is None and not each.read_back and each.sending.score.given is not None
    ]
    others = [
        each
        for each in outcomes
        if each.read_back or each.failure is not None or each.sending.score.given is None
    ]
    with transaction.atomic():
        _accept(pairing, accepted, now)
        _write_others([each for each in others if not each.read_back], pace, now)
        Passage.objects.bulk_create([_passage(pairing, each, now) for each in others])
        for each in others:
            if each.read_back and each.failure is not None:
                _not_shown(each, each.failure)
        for failure, sending in {
            each.failure.code: (each.failure, each.sending) for each in others if each.failure
        }.values():
            _beyond(pairing, sending, failure, now)


def _accept(pairing: Pairing, accepted: Sequence[Sending], now: datetime) -> None:
    """Note what the platform accepted, in one statement: through the ORM it cost half of the
    sender's processor time (bench.relay).
    """
    if not accepted:
        return
    columns: dict[str, Any] = {
        "ids": [each.due.pk for each in accepted],
        "revisions": [each.due.revision for each in accepted],
        "given": [each.score.given for each in accepted],
        "maxima": [each.score.maximum for each in accepted],
        "stamps": [each.score.timestamp for each in accepted],
        "entries": [each.entry for each in accepted],
        "lags": [_lag(each, now) for each in accepted],
        "states": [str(each.after.state) for each in accepted],
        "whys": [each.after.why for each in accepted],
        "untils": [each.after.until for each in accepted],
        "reasons": [each.after.reason for each in accepted],
    }
    for lag in columns["lags"]:
        LAG.observe(lag / 1000)
    with connection.cursor() as cursor:
        cursor.execute(_ACCEPT, columns | {"pairing": pairing.pk, "now": now})


def _lag(sending: Sending, now: datetime) -> int:
    return max(0, min(int((now - sending.arrived).total_seconds() * 1000), 2**31 - 1))


def _write_others(others: Sequence[Settled], pace: Pace, now: datetime) -> None:
    if not others:
        return
    current = {
        cell.pk: cell
        for cell in (
            Cell.objects.select_for_update(of=("self",))
            .filter(pk__in=[each.sending.due.pk for each in others])
            .order_by("pk")
        )
    }
    for each in others:
        cell = current[each.sending.due.pk]
        _apply(cell, each, pace, now)
        if cell.revision != each.sending.due.revision and cell.state != Cell.State.WAITING:
            cell.state, cell.until, cell.since = Cell.State.WAITING, None, cell.since or now
    # One statement for all; the rows are there, so the conflict is what is meant.
    Cell.objects.bulk_create(
        list(current.values()), update_conflicts=True, unique_fields=["id"], update_fields=_WRITTEN
    )


def put_back(sendings: Sequence[Sending]) -> None:
    """Let wait again what was claimed and not begun."""
    ids = [each.due.pk for each in sendings]
    Cell.objects.filter(pk__in=ids, state=Cell.State.SENDING).update(state=Cell.State.WAITING)


def _apply(cell: Cell, each: Settled, pace: Pace, now: datetime) -> None:
    failure, score = each.failure, each.sending.score
    cell.changed_at = now
    if failure is not None:
        _apply_failure(cell, failure, pace, now)
        return
    cell.state, cell.why, cell.reason, cell.remedy, cell.tries = Cell.State.EMPTY, "", "", "", 0
    cell.until, cell.since, cell.failing_since, cell.again = None, None, None, ""
    cell.status_sent = f"{score.activity}/{score.grading}"


def _apply_failure(cell: Cell, failure: Failure, pace: Pace, now: datetime) -> None:
    cell.reason, cell.remedy = failure.message[:500], failure.remedy[:500]
    cell.in_doubt = cell.in_doubt or (
        failure.kind is FailureKind.LATER and failure.code not in _NOT_DONE
    )
    if failure.kind is FailureKind.SETTING:
        cell.state, cell.why, cell.until = Cell.State.HELD, "setting", now + SETTING_AGAIN
    elif failure.code == NO_LEARNER:
        cell.state, cell.why, cell.until = Cell.State.HELD, "not_in_roster", now + ROSTER_AGAIN
    elif failure.kind is not FailureKind.LATER:
        cell.state, cell.until = (
            (Cell.State.CLASH if failure.code == CLASH else Cell.State.REFUSED),
            None,
        )
    elif failure.code in {"busy", HELD}:
        # The throttle opens when the platform said, or the operator ends the hold.
        cell.state, cell.until = Cell.State.WAITING, None
    else:
        cell.tries, cell.failing_since = cell.tries + 1, cell.failing_since or now
        # spreads tries, guards nothing
        again = next_try(cell.tries, cell.failing_since, now, random(), failure.retry_after)  # noqa: S311
        cell.state, cell.until = Cell.State.WAITING, None if pace.down_since else again
        if again is None:
            cell.state, cell.remedy = (
                Cell.State.REFUSED,
                f"{_IN_VAIN} Send it again once the platform answers.",
            )


def _not_shown(each: Settled, failure: Failure) -> None:
    """Mark a cell whose gradebook does not show what it accepted, unless something newer went there
    meanwhile.
    """
    there = Cell.objects.filter(
        pk=each.sending.due.pk,
        state=Cell.State.ACCEPTED,
        sent_timestamp=each.sending.score.timestamp,
    )
    there.update(
        state=Cell.State.REFUSED, reason=failure.message[:500], remedy=failure.remedy[:500]
    )


def _passage(pairing: Pairing, each: Settled, now: datetime) -> Passage:
    sending, words = each.sending, each.failure.message[:500] if each.failure else ""
    return Passage(
        pairing=pairing,
        cell_id=sending.due.pk,
        entry_id=sending.entry,
        what=_what(each),
        at=now,
        given=sending.score.given,
        maximum=sending.score.maximum,
        words=words,
    )


def _what(each: Settled) -> Passage.What:
    if each.failure is None:
        if each.read_back:
            return Passage.What.CHECKED
        return Passage.What.TOLD if each.sending.score.given is None else Passage.What.ACCEPTED
    if each.failure.code == CLASH:
        return Passage.What.CLASH
    return Passage.What.FAILED if each.failure.kind is FailureKind.LATER else Passage.What.REFUSED


def _beyond(pairing: Pairing, sending: Sending, failure: Failure, now: datetime) -> None:
    """What a failure means for other cells than its own."""
    fields: dict[str, Any] = {"reason": failure.message[:500], "remedy": failure.remedy[:500]}
    on_their_way = Cell.objects.filter(
        pairing=pairing, state__in=[Cell.State.WAITING, Cell.State.SENDING]
    )
    if failure.code == NO_COLUMN:
        on_their_way.filter(placement=sending.due.placement).update(
            state=Cell.State.REFUSED, until=None, **fields
        )
    elif failure.kind is FailureKind.SETTING:
        on_their_way.update(
            state=Cell.State.HELD, why="setting", until=now + SETTING_AGAIN, **fields
        )
    elif failure.code == NO_LEARNER:
        Shell.objects.filter(pk=pairing.shell_id).update(
            roster_at=None
        )  # it is not what we took it for: read it again
