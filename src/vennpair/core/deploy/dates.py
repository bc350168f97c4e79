"""Due dates: kept in their zone, shifted for a section or a term by the course's wall clock."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

from vennpair.core.moments import moment_words


def read_moment(text: str) -> datetime | None:
    """Return an ISO 8601 time that names its zone, None where there is none or it names no zone."""
    try:
        moment = datetime.fromisoformat(text) if text else None
    except ValueError:
        return None
    return moment if moment is not None and moment.tzinfo is not None else None


def read_due(text: str, zone: str) -> str:
    """Return a due date as another system wrote it as ISO 8601 with its zone: a day counts until
    its end, and a time without a zone is the course's; empty where it is no date.
    """
    try:
        moment = datetime.fromisoformat(text.strip())
    except ValueError:
        return ""
    if moment.tzinfo is not None:
        return moment.isoformat()
    is_day = len(text.strip()) <= len("2027-01-31")
    wall = moment.replace(hour=23, minute=59) if is_day else moment
    return real_moment(wall, zone).isoformat()


def shifted(text: str, days: int, zone: str) -> tuple[str, bool]:
    """Return a time ``days`` later at the same hour of the course's clock, in the course's zone,
    and whether that hour does not exist.

    An hour that the clocks skip becomes the one after it; of an hour that comes twice the first is
    taken, unless nothing is shifted. What is no moment is returned as it is.
    """
    moment = read_moment(text)
    if moment is None:
        return text, False
    local = moment.astimezone(ZoneInfo(zone))
    if not days:
        return local.isoformat(), False
    return _real(local.replace(tzinfo=None) + timedelta(days=days), zone)


def in_zone(text: str, zone: str) -> str:
    """Return the same moment in the course's zone, as it is written to a shell."""
    return shifted(text, 0, zone)[0]


def proposed_shift(first: str, now: datetime, zone: str, start: date | None = None) -> int:
    """Return by how many days to move dates whose first is ``first``: whole weeks, so that each
    keeps its weekday.

    With ``start``, a day of the term's first week, the first date comes into that week; without, a
    first date that is past comes into the seven days from ``now``. 0 where nothing needs to move.
    """
    moment = read_moment(first)
    if moment is None:
        return 0
    local = moment.astimezone(ZoneInfo(zone)).date()
    if start is not None:
        return (_monday(start) - _monday(local)).days
    if moment >= now:
        return 0
    days = (now.astimezone(ZoneInfo(zone)).date() - local).days // 7 * 7
    moved = read_moment(shifted(first, days, zone)[0])
    return days if moved is not None and moved >= now else days + 7


def _monday(day: date) -> date:
    return day - timedelta(days=day.weekday())


def in_course(text: str, zone: str) -> tuple[str, bool]:
    """Return a time as somebody typed it, in the course's zone where it names none, and whether
    that hour does not exist.

    Raises ValueError where it is no time.
    """
    moment = datetime.fromisoformat(text)
    return (moment.isoformat(), False) if moment.tzinfo else _real(moment, zone)


def same_moment(one: str, other: str) -> bool:
    """Say whether two times are the same moment, however they are written; none is none."""
    first, second = read_moment(one), read_moment(other)
    return first == second if first and second else (one or "") == (other or "")


def shown(text: str, zone: str) -> str:
    """Return a time for a sentence, in the course's zone."""
    moment = read_moment(text)
    return moment_words(moment, zone) if moment else text or "no date"


def real_moment(wall: datetime, zone: str) -> datetime:
    """Return the moment at which the course's clock shows ``wall`` (a time without a zone), in that
    zone.

    A time that the clocks skip becomes the one as long after the gap; of one that comes twice the
    first is taken.
    """
    return wall.replace(tzinfo=ZoneInfo(zone)).astimezone(UTC).astimezone(ZoneInfo(zone))


def _real(wall: datetime, zone: str) -> tuple[str, bool]:
    settled = real_moment(wall, zone)
    return settled.isoformat(), settled.replace(tzinfo=None) != wall
