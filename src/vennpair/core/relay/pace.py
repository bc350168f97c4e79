"""How fast a platform is written to: a window of calls in flight that halves when it asks for less
and grows while it answers.

Several workers that share a platform each have a window; as each gives way, together they come to
what it bears.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta

WIDEST = 32
DOWN_AFTER = 5  # failures in a row, with nothing accepted between them
LONGEST_PAUSE = 120.0  # one call in two minutes bothers nobody, and what waits goes soon after
LONGEST_WAIT = 3600.0
GIVE_UP = timedelta(days=3)


@dataclass(frozen=True, slots=True)
class Pace:
    """What is known of a platform's patience.

    ``closed_until``: nothing is sent before; ``down_since``: it has not answered since.
    """

    width: float = WIDEST
    closed_until: datetime | None = None
    down_since: datetime | None = None
    failures: int = 0
    reason: str = ""

    def open_at(self, now: datetime) -> bool:
        """Say whether something may be sent now."""
        return self.closed_until is None or self.closed_until <= now

    @property
    def in_flight(self) -> int:
        """Return how many calls may be in flight: one while it is not known to be back."""
        return 1 if self.down_since else max(1, int(self.width))


def answered(pace: Pace) -> Pace:
    """Return the pace after a call that the platform answered: one call more for each window of
    answers.
    """
    width = min(WIDEST, pace.width + 1 / max(pace.width, 1))
    return Pace(width)


def asked_for_pause(pace: Pace, seconds: float | None, now: datetime, reason: str) -> Pace:
    """Return the pace after a 429: half the window, and closed for as long as it said.

    Of many calls that come back with the same request only the first halves the window.
    """
    until = now + timedelta(seconds=min(seconds if seconds is not None else 2.0, LONGEST_WAIT))
    if not pace.open_at(now):
        return replace(pace, closed_until=max(until, pace.closed_until or until), reason=reason)
    return Pace(max(1.0, pace.width / 2), until, None, 0, reason)


def failed(pace: Pace, now: datetime, reason: str, chance: float, *, unreachable: bool) -> Pace:
    """Return the pace after a call that nothing answered, or that ended in a 5xx; ``chance`` from 0
    to 1 spreads the tries.

    What cannot be reached, or fails again and again, is taken to be down: it is asked with one call
    at a time, ever more rarely, at least every two minutes, so that all of it goes soon after it is
    back.
    """
    count = pace.failures + 1
    if not unreachable and count < DOWN_AFTER:
        return replace(pace, failures=count, reason=reason)
    if pace.down_since is not None and not pace.open_at(now):
        return replace(pace, reason=reason)  # the other calls of the same moment
    since = pace.down_since or now
    pause = min(2.0 ** min(count - 1, 12), LONGEST_PAUSE) * (0.5 + chance / 2)
    return Pace(max(1.0, pace.width / 2), now + timedelta(seconds=pause), since, count, reason)


def next_try(
    tries: int,
    failing_since: datetime,
    now: datetime,
    chance: float,
    retry_after: float | None = None,
) -> datetime | None:
    """Return when one score is tried again after it failed alone, None once three days were in
    vain.
    """
    if now - failing_since >= GIVE_UP:
        return None
    seconds = (
        retry_after
        if retry_after is not None
        else min(2.0 ** min(tries, 12), LONGEST_WAIT) * (0.5 + chance / 2)
    )
    return now + timedelta(seconds=seconds)
