"""When a course has its night: what looks at it automatically does so then, by the course's own
clock.
"""

from __future__ import annotations

from datetime import date, datetime
from zoneinfo import ZoneInfo

BEGINS, ENDS = 3, 6  # hours; no clock change of any zone skips all of them


def night_of(now: datetime, zone: str) -> date | None:
    """Return the date of the night that a course of this zone is in, or None by day.

    ``now`` carries a zone.
    """
    local = now.astimezone(ZoneInfo(zone))
    return local.date() if BEGINS <= local.hour < ENDS else None
