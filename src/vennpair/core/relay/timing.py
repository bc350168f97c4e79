"""When a report may go: at once, after the due date, at a time of day, or by hand.

All in the course's zone.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from vennpair.core.deploy.dates import read_moment, real_moment
from vennpair.core.relay.decide import Report
from vennpair.core.relay.rules import Late, Rule, When


@dataclass(frozen=True, slots=True)
class Opening:
    """From when a report may go; None where a person has to release it.

    ``why`` is what it waits for.
    """

    at: datetime | None
    why: str = ""


def opening(
    rule: Rule, report: Report, due_at: str, released: datetime | None, zone: str
) -> Opening:
    """Return from when a report may go.

    ``due_at``: ISO 8601 with its zone, or empty. ``released``: when the instructor last released
    the item's scores; what had come by then may go whatever the rule says. Work counts as late by
    when it was handed in; a time of day is counted from when the report came.
    """
    arrived = report.arrived or report.timestamp
    if released is not None and arrived <= released:
        return Opening(released)
    if rule.when is When.SUBMISSION:
        return Opening(arrived)
    if rule.when is When.DAILY:
        return Opening(next_at(rule.at, arrived, zone), "daily")
    if rule.when is When.DUE:
        return _after_due(rule, report, read_moment(due_at), arrived)
    if released is not None and rule.late is Late.AT_ONCE:
        return Opening(arrived)
    return Opening(None, "hand")


def _after_due(rule: Rule, report: Report, due: datetime | None, arrived: datetime) -> Opening:
    if due is None:
        return Opening(None, "no_due")
    if report.handed_in <= due:
        return Opening(max(due, arrived), "due")
    return Opening(arrived) if rule.late is Late.AT_ONCE else Opening(None, "late")


def next_at(clock: str, after: datetime, zone: str) -> datetime:
    """Return the next moment, not before ``after``, at which the course's clock shows ``clock``.

    Where the clocks skip that time it is the same span after the gap; of a time that comes twice
    the first is taken.
    """
    hour, minute = (int(part) for part in clock.split(":"))
    day = after.astimezone(ZoneInfo(zone)).replace(
        tzinfo=None, hour=hour, minute=minute, second=0, microsecond=0
    ) - timedelta(days=1)
    while True:
        moment = real_moment(day, zone).astimezone(
            UTC
        )  # times that come twice do not compare well in their own zone
        if moment >= after:
            return moment
        day += timedelta(days=1)


def why_held(why: str, until: str) -> str:
    """Return in a sentence what a held score waits for.

    ``until`` is a time in the course's zone as text.
    """
    sentences = {
        "off": "The relay is off; it is kept until you turn it on.",
        "paused": "The pairing is paused; it is kept until you resume it.",
        "not_relayed": "You chose that scores of this item stay here.",
        "due": f"Held until the due date, {until}.",
        "daily": f"Held until {until}.",
        "hand": "Held until you release it.",
        "late": "Handed in after the due date; held until you release it.",
        "no_due": "It is to go after its due date, but it has none; release it by hand.",
        "dropped": (
            "This learner has left the course; the score is kept, and goes if they come back."
        ),
        "not_in_roster": (
            "The course's roster does not list this learner (yet); it is looked again every hour."
        ),
        "setting": f"The platform's settings do not let it in; it is tried again at {until}.",
    }
    return sentences.get(why, "")
