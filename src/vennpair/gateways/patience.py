"""What another system bears: the pause that it asked for, and how many calls at once.

Until a pause is over nothing at all is asked of it, whoever in the process would ask, and other
processes are told. After each pause half as many calls go at once, and more again as it answers.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.counted import PAUSES
from vennpair.gateways.errors import OutsideError

WITHOUT_WORD = 2.0  # seconds after a 429 that names none
LONGEST = 3_600.0
WIDEST = 32  # calls at once of one process, where the other side never asked for less
ROOM_SECONDS = 60.0  # for which a call waits for its turn

Tell = Callable[[datetime, float], None]


class Patience:
    """One other side's; ``tell`` is called with the end of a pause, and with how many calls at once
    it bears, when this process learns of one.
    """

    def __init__(self, who: str, tell: Tell | None = None) -> None:
        self.who, self._tell = who, tell
        self._until: datetime | None = None
        self._width, self._flying = float(WIDEST), 0
        self._room = threading.Condition()

    @property
    def width(self) -> int:
        """Return how many calls may be under way at once."""
        return max(1, int(self._width))

    @property
    def pause(self) -> datetime | None:
        """Return when the pause ends, None where there is none."""
        with self._room:
            until = self._until
        return until if until is not None and until > datetime.now(UTC) else None

    @contextmanager
    def turn(self) -> Iterator[None]:
        """Hold one of the places that calls have at once while inside, after waiting for it.

        Raises OutsideError ``busy`` with the rest of the pause while there is one, or where no
        place was free for a minute.
        """
        self.check()
        ends = time.monotonic() + ROOM_SECONDS
        with self._room:
            while self._flying >= self.width:
                if not self._room.wait(ends - time.monotonic()):
                    raise self._busy("answers slowly, and many calls wait for it", 5.0)
            self._flying += 1
        try:
            self.check()  # one may have been asked for meanwhile
            yield
        finally:
            with self._room:
                self._flying -= 1
                self._room.notify()

    def check(self) -> None:
        """Raise OutsideError ``busy`` with the rest of the pause while there is one."""
        if (until := self.pause) is not None:
            left = max(0.0, (until - datetime.now(UTC)).total_seconds())
            raise self._busy("asked for a pause (HTTP 429)", left)

    def answered(self) -> None:
        """Learn from a good answer: one call more at once for each round of them."""
        with self._room:
            if self._width < WIDEST:
                self._width = min(float(WIDEST), self._width + 1 / self._width)
                self._room.notify()

    def note(self, failure: Failure) -> None:
        """Learn from an answer: a 429, or a 503 that names a time (RFC 9110, 10.2.3)."""
        if failure.code != "busy" and (failure.code != "down" or failure.retry_after is None):
            return
        seconds = WITHOUT_WORD if failure.retry_after is None else failure.retry_after
        now = datetime.now(UTC)
        until = now + timedelta(seconds=min(seconds, LONGEST))
        with self._room:
            # Of many calls that come back with the same request only the first halves it.
            fresh = self._until is None or self._until <= now
            width = max(1.0, self._width / 2) if fresh else self._width
        PAUSES.labels(self.who).inc()
        if self.learn(until, width) and self._tell is not None:
            self._tell(until, width)

    def learn(self, until: datetime, width: float) -> bool:
        """Take over what somebody learned; return whether the pause is longer than was known."""
        with self._room:
            longer = self._until is None or until > self._until
            if longer:
                self._until = until
            self._width = min(self._width, max(1.0, width))
        return longer

    def _busy(self, why: str, seconds: float) -> OutsideError:
        return OutsideError(
            Failure(
                FailureKind.LATER,
                "busy",
                f"{self.who} {why}, so nothing is asked of it now.",
                "Nothing to do; it is retried automatically.",
                seconds,
            )
        )
