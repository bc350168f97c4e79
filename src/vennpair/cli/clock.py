"""Moments as people read them: in the course's zone, which is named, or in this machine's where
there is no course.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, tzinfo
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from vennpair.client import VennPair

Clock = Callable[[str | None], str]


def course_clock(venn: VennPair, pairing: str, *, seconds: bool = False) -> Clock:
    """Return what says moments in the zone of a pairing's course."""
    return clock_of(venn.pairing(pairing)["shell"]["timezone"], seconds=seconds)


def clock_of(zone: str = "", *, seconds: bool = False) -> Clock:
    """Return what says moments in a zone, without one in this machine's own.

    What names no zone is said as it is. A zone that this machine does not know is said as UTC,
    which is named.
    """
    place: tzinfo | None
    try:
        place = ZoneInfo(zone) if zone else None
    except (ZoneInfoNotFoundError, ValueError):
        place = UTC

    def say(text: str | None) -> str:
        moment = datetime.fromisoformat(text) if text else None
        if moment is None or moment.tzinfo is None:
            return text or ""
        there = moment.astimezone(place)
        return there.strftime(f"%Y-%m-%d %H:%M{':%S' if seconds else ''} %Z")

    return say
