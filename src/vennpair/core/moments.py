"""How a moment and a day are written in a sentence: in the course's zone, as Americans write them.

``tools/sentences.py`` has what these become in other languages.
"""

from __future__ import annotations

from datetime import date, datetime
from zoneinfo import ZoneInfo


def moment_words(moment: datetime, zone: str) -> str:
    """Return a moment with its year, as ``Nov 29, 2026 at 11:42 PM``."""
    local = moment.astimezone(ZoneInfo(zone))
    return f"{local:%b} {local.day}, {local.year} at {_time(local)}"


def on_words(when: datetime, zone: str) -> str:
    """Return `` on March 3 at 2:02 PM``; a moment without a zone is a day, and has no time."""
    if not when.tzinfo:
        return f" on {day_words(when)}"
    local = when.astimezone(ZoneInfo(zone))
    return f" on {day_words(local)} at {_time(local)}"


def day_words(day: date) -> str:
    """Return a day, as ``May 13``."""
    return f"{day:%B} {day.day}"


def _time(local: datetime) -> str:
    return f"{local.hour % 12 or 12}:{local:%M} {'AM' if local.hour < 12 else 'PM'}"
