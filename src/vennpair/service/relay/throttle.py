"""The throttle before a platform: how many calls may be in flight, shared by all threads of a
process.

What one worker learns that all must know, a pause or that a platform is down, is written down; the
window of calls is each process's own (core/relay/pace.py).
"""

from __future__ import annotations

import random
import threading
from dataclasses import asdict
from datetime import datetime
from typing import Any

from django.utils import timezone

from vennpair.core.failures import Failure, FailureKind
from vennpair.core.relay.pace import Pace, answered, asked_for_pause, failed
from vennpair.gateways.hold import HELD
from vennpair.service.relay.models import PlatformPace

CLOSED = "closed"  # not sent, as the platform asked for a pause meanwhile
_lock = threading.Lock()
_throttles: dict[Any, Throttle] = {}


class Throttle:
    """One platform's throttle in this process."""

    def __init__(self, platform_id: Any) -> None:
        self._platform = platform_id
        self._lock = threading.Lock()
        self._flying = 0
        self._pace = Pace()
        self._untold = False

    @property
    def pace(self) -> Pace:
        """Return what is known now."""
        return self._pace

    @property
    def wide(self) -> int:
        """Return how many calls may be in flight."""
        return self._pace.in_flight

    def look(self) -> None:
        """Take over what other workers wrote down of the platform."""
        self.write()
        row = PlatformPace.objects.filter(platform=self._platform).first()
        if row is None:
            return
        with self._lock:
            if not self._untold:
                width = min(self._pace.width, row.width) if row.closed_until else self._pace.width
                self._pace = Pace(width, row.closed_until, row.down_since, row.failures, row.reason)

    def enter(self) -> bool:
        """Take a place in flight, if the platform is open and one is free."""
        with self._lock:
            if not self._pace.open_at(timezone.now()) or self._flying >= self._pace.in_flight:
                return False
            self._flying += 1
            return True

    def hindered(self) -> Failure | None:
        """Say, in any thread and without the database, whether the platform has closed since a call
        was begun.
        """
        with self._lock:
            return (
                None
                if self._pace.open_at(timezone.now())
                else Failure(FailureKind.LATER, CLOSED, self._pace.reason, "")
            )

    def leave(self, failure: Failure | None, now: datetime) -> None:
        """Give a place back, with what came of the call."""
        with self._lock:
            self._flying -= 1
            before = self._pace
            self._pace = _learned(before, failure, now)
            self._untold = self._untold or _told(before) != _told(self._pace)

    def write(self) -> None:
        """Write down what all workers must know, where it has changed.

        Only the caller's thread touches the database.
        """
        with self._lock:
            if not self._untold:
                return
            self._untold, fields = False, asdict(self._pace)
        PlatformPace.objects.update_or_create(platform_id=self._platform, defaults=fields)


def throttle_of(platform_id: Any) -> Throttle:
    """Return the throttle of a platform, the same for all threads."""
    with _lock:
        return _throttles.setdefault(platform_id, Throttle(platform_id))


def _learned(pace: Pace, failure: Failure | None, now: datetime) -> Pace:
    if failure is not None and failure.code in {CLOSED, HELD}:
        return pace
    if failure is None or failure.kind is not FailureKind.LATER:
        return answered(pace) if pace.open_at(now) else pace
    if failure.code == "busy":
        return asked_for_pause(pace, failure.retry_after, now, failure.message)
    spread = random.random()  # noqa: S311 - it keeps processes from coming back all at once
    return failed(pace, now, failure.message, spread, unreachable=failure.code == "unreachable")


def _told(pace: Pace) -> tuple[Any, ...]:
    return pace.closed_until, pace.down_since, pace.reason if pace.closed_until else ""
