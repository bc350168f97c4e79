"""Moments as people read them: in the course's zone, which is named, or in this machine's where
there is no course.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from zoneinfo import ZoneInfo

from vennpair.client import VennPair

Clock = Callable[[str | None], str]


def course_clock(venn: VennPair, pairing: str, *, seconds: bool = False) -> Clock:
    """Return what says moments in the zone of a pairing's course."""
    return clock_of(venn.pairing(pairing)["shell"]["timezone"], seconds=seconds)


def clock_of(zone: str = "", *, seconds: bool = False) -> Clock:
    """Return what says moments in a zone, without one in this machine's own.

    What names no zone is said as it is.
    """

    def say(text: str | None) -> str:
        moment = datetime.fromisoformat(text) if text else None
        if moment is None or moment.tzinfo is None:
            return text or ""
        there = moment.astimezone(ZoneInfo(zone) if zone else None)
        return there.strftime(f"%Y-%m-%d %H:%M{':%S' if seconds else ''} %Z")

    return say
