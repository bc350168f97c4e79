"""The pause that another system asked for: until it is over nothing at all is asked of it, whoever
in the process would ask, and other processes are told.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from datetime import UTC, datetime, timedelta

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.errors import OutsideError

WITHOUT_WORD = 2.0  # seconds after a 429 that names none
LONGEST = 3_600.0

Tell = Callable[[datetime], None]


class Patience:
    """One other side's pause; ``tell`` is called with its end when this process learns of one."""

    def __init__(self, who: str, tell: Tell | None = None) -> None:
        self._who, self._tell = who, tell
        self._until: datetime | None = None
        self._lock = threading.Lock()

    def check(self) -> None:
        """Raise OutsideError ``busy`` with the rest of the pause while there is one."""
        with self._lock:
            until = self._until
        left = (until - datetime.now(UTC)).total_seconds() if until else 0.0
        if left > 0:
            raise OutsideError(
                Failure(
                    FailureKind.LATER,
                    "busy",
                    f"{self._who} asked for a pause (HTTP 429), so nothing is asked of it now.",
                    "Nothing to do; it is tried again by itself.",
                    left,
                )
            )

    def note(self, failure: Failure) -> None:
        """Learn from an answer: a 429, or a 503 that names a time (RFC 9110, 10.2.3)."""
        if failure.code != "busy" and (failure.code != "down" or failure.retry_after is None):
            return
        seconds = WITHOUT_WORD if failure.retry_after is None else failure.retry_after
        until = datetime.now(UTC) + timedelta(seconds=min(seconds, LONGEST))
        if self.learn(until) and self._tell is not None:
            self._tell(until)

    def learn(self, until: datetime) -> bool:
        """Take over a pause that somebody learned of; return whether it is longer than was known."""
        with self._lock:
            longer = self._until is None or until > self._until
            if longer:
                self._until = until
        return longer
