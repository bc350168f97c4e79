"""What one sees of a relay: counts, the oldest waiting score, the lag, and how scores came and went
over time.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db.models import (
    Aggregate,
    Count,
    DateTimeField,
    FloatField,
    Func,
    Max,
    Min,
    Q,
    QuerySet,
    Value,
)
from django.db.models.functions import Coalesce

from vennpair.core.deploy.dates import shown
from vennpair.core.pair.states import relays
from vennpair.core.relay.health import Standing, judge
from vennpair.service.connect.models import Institution, Platform
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.hooks import unreported_scores
from vennpair.service.relay.models import (
    Cell,
    LedgerEntry,
    Passage,
    PlatformPace,
    RelaySetting,
    Stray,
)

ON_THE_WAY = [Cell.State.WAITING, Cell.State.SENDING]
# What was reported and is not in the gradebook, whatever it waits for.
UNDELIVERED = [*ON_THE_WAY, Cell.State.HELD, Cell.State.CLASH, Cell.State.REFUSED]
DAY = timedelta(hours=24)
BUCKETS = ((6, 5), (48, 30), (24 * 14, 6 * 60))  # so many hours, then buckets of so many minutes
WIDEST_BUCKET = 24 * 60


class Percentile(Aggregate):
    """A continuous percentile of a column."""

    function = "PERCENTILE_CONT"
    template = "%(function)s(%(share)s) WITHIN GROUP (ORDER BY %(expressions)s)"

    def __init__(self, expression: str, share: float, **extra: Any) -> None:
        super().__init__(expression, share=share, output_field=FloatField(), **extra)


@dataclass(frozen=True, slots=True)
class Lag:
    """Milliseconds from a report's arrival to the platform's acceptance: of half of them, and of 95
    in a hundred, at most.
    """

    median_ms: float | None
    most_ms: float | None


def lag_of(passages: Any) -> Lag:
    """Return the lag of what was accepted.

    What was held on purpose is not a delay and is left out by its release.
    """
    found = passages.filter(what=Passage.What.ACCEPTED).aggregate(
        half=Percentile("lag_ms", 0.5), most=Percentile("lag_ms", 0.95)
    )
    return Lag(found["half"], found["most"])


def setting_of(pairing: Pairing) -> RelaySetting:
    """Return how a relay is watched and fed, the defaults where nobody has chosen."""
    return RelaySetting.objects.filter(pairing=pairing).first() or RelaySetting(pairing=pairing)


def counts_of(pairing: Pairing) -> tuple[dict[str, int], dict[str, int]]:
    """Return the cells by state, and the held ones by what they wait for."""
    counts: dict[str, int] = {}
    held: dict[str, int] = {}
    for state, why, count in (
        Cell.objects.filter(pairing=pairing)
        .order_by()
        .values_list("state", "why")
        .annotate(count=Count("pk"))
    ):
        counts[state] = counts.get(state, 0) + count
        if state == Cell.State.HELD:
            held[why] = held.get(why, 0) + count
    return counts, held


def oldest_of(pairing: Pairing) -> Cell | None:
    """Return the score that has waited longest for what is not the instructor's own wish."""
    waiting = Cell.objects.filter(
        Q(state__in=ON_THE_WAY) | Q(state=Cell.State.HELD, why="setting"), pairing=pairing
    )
    return (
        waiting.select_related("placement", "learner")
        .order_by(Coalesce("since", "changed_at"), "pk")
        .first()
    )


def pause_of(pace: PlatformPace | None, platform: Platform, zone: str, now: datetime) -> str:
    """Return in a sentence why a platform is not written to now; empty while it is."""
    if pace is None or (
        (pace.closed_until is None or pace.closed_until <= now) and pace.down_since is None
    ):
        return ""
    again = (
        f"; tried again at {shown(pace.closed_until.isoformat(), zone)}"
        if pace.closed_until and pace.closed_until > now
        else "; being tried now"
    )
    if pace.down_since is not None:
        return (
            f"{platform.name} has not answered since"
            f" {shown(pace.down_since.isoformat(), zone)}{again}."
        )
    return f"{platform.name} asked for a pause{again}."


def summary_of(pairing: Pairing, now: datetime) -> dict[str, Any]:
    """Return how the relay of a pairing is doing."""
    counts, held = counts_of(pairing)
    setting, oldest = setting_of(pairing), oldest_of(pairing)
    platform = pairing.shell.platform
    pace = PlatformPace.objects.filter(platform=platform).first()
    pause = pause_of(pace, platform, pairing.shell.zone, now)
    received = LedgerEntry.objects.filter(pairing=pairing).count()
    unclaimed = Stray.objects.filter(placement__pairing=pairing).count()
    since = (oldest.since or oldest.changed_at) if oldest else None
    unreported, compared = next(iter(unreported_scores(pairing)), (0, None))
    standing = Standing(
        pairing.relay_on,
        relays(pairing.state),
        counts,
        held,
        received,
        unclaimed,
        oldest=since,
        patience=timedelta(minutes=setting.alarm_minutes),
        pause=pause,
        down=bool(pace and pace.down_since),
        unreported=unreported,
        compared=shown(compared.isoformat(), pairing.shell.zone) if compared else "",
    )
    return {
        "on": pairing.relay_on,
        "state": pairing.state,
        "verdict": judge(standing, now),
        "counts": counts,
        "held": held,
        "received": received,
        "unclaimed": unclaimed,
        "oldest": (
            None
            if oldest is None
            else {
                "since": since,
                "learner": oldest.learner.name,
                "item": oldest.placement.title,
                "state": oldest.state,
                "reason": oldest.reason,
            }
        ),
        "lag": lag_of(Passage.objects.filter(pairing=pairing, at__gt=now - DAY)),
        "pause": pause,
        "setting": setting,
    }


def chart_of(pairing: Pairing, hours: int, now: datetime) -> dict[str, Any]:
    """Return scores received and accepted in equal buckets up to now, with the lag of each.

    Empty ones are left out.
    """
    minutes = next((size for most, size in BUCKETS if hours <= most), WIDEST_BUCKET)
    since = now - timedelta(hours=hours)
    received = (
        LedgerEntry.objects.filter(pairing=pairing, received_at__gt=since)
        .annotate(bucket=_bucket("received_at", minutes))
        .order_by()
        .values("bucket")
        .annotate(count=Count("pk"))
    )
    accepted = (
        Passage.objects.filter(pairing=pairing, at__gt=since, what=Passage.What.ACCEPTED)
        .annotate(bucket=_bucket("at", minutes))
        .order_by()
        .values("bucket")
    )
    accepted = accepted.annotate(
        count=Count("pk"), lag=Percentile("lag_ms", 0.5), most=Max("lag_ms")
    )
    rows: dict[datetime, dict[str, Any]] = {}
    for each in received:
        rows[each["bucket"]] = {
            "at": each["bucket"],
            "received": each["count"],
            "accepted": 0,
            "lag_ms": None,
            "most_ms": None,
        }
    for each in accepted:
        row = rows.setdefault(each["bucket"], {"at": each["bucket"], "received": 0})
        row |= {"accepted": each["count"], "lag_ms": each["lag"], "most_ms": each["most"]}
    return {
        "since": since,
        "until": now,
        "minutes": minutes,
        "buckets": [rows[at] for at in sorted(rows)],
    }


def _bucket(field: str, minutes: int) -> Func:
    return Func(
        Value(f"{minutes} minutes"),
        field,
        template="date_bin(%(expressions)s, TIMESTAMPTZ '2001-01-01')",
        output_field=DateTimeField(),
        arg_joiner="::interval, ",
    )


def platforms_health(institution: Institution, now: datetime) -> list[dict[str, Any]]:
    """Return for administrators how each platform takes scores: open or not, what waits, what was
    accepted and refused in a day, the lag.
    """
    platforms = Platform.objects.filter(institution=institution, active=True)
    ours = {"pairing__shell__platform__in": platforms}
    waiting = _by_platform(
        Cell.objects.filter(**ours, state__in=ON_THE_WAY), count=Count("pk"), oldest=Min("since")
    )
    came = Q(what=Passage.What.ACCEPTED)
    passed = _by_platform(
        Passage.objects.filter(**ours, at__gt=now - DAY),
        accepted=Count("pk", filter=came),
        refused=Count("pk", filter=Q(what=Passage.What.REFUSED)),
        failed=Count("pk", filter=Q(what=Passage.What.FAILED)),
        half=Percentile("lag_ms", 0.5, filter=came),
        most=Percentile("lag_ms", 0.95, filter=came),
    )
    relays: dict[Any, dict[str, Any]] = {
        row["shell__platform"]: dict(row)
        for row in Pairing.objects.filter(shell__platform__in=platforms, state=Pairing.State.LIVE)
        .order_by()
        .values("shell__platform")
        .annotate(live=Count("pk"), off=Count("pk", filter=Q(relay_on=False)))
    }
    rows = []
    for platform in platforms.select_related("pace").order_by("name", "pk"):
        pace = getattr(platform, "pace", None)
        on_the_way, told = waiting.get(platform.pk, {}), passed.get(platform.pk, {})
        relay = relays.get(platform.pk, {})
        rows.append(
            {
                "platform": platform.pk,
                "name": platform.name,
                "open": _is_open(pace, now),
                "pause": pause_of(pace, platform, institution.timezone, now),
                "at_once": 32 if pace is None else (1 if pace.down_since else int(pace.width)),
                "waiting": on_the_way.get("count", 0),
                "oldest": on_the_way.get("oldest"),
                "accepted": told.get("accepted", 0),
                "refused": told.get("refused", 0),
                "failed": told.get("failed", 0),
                "lag": Lag(told.get("half"), told.get("most")),
                "live": relay.get("live", 0),
                "off": relay.get("off", 0),
            }
        )
    return rows


def _by_platform(rows: QuerySet[Any], **wanted: Aggregate) -> dict[Any, dict[str, Any]]:
    """Return aggregates of rows that hang off a pairing, by the id of its platform."""
    platform = "pairing__shell__platform"
    return {row[platform]: row for row in rows.order_by().values(platform).annotate(**wanted)}


def _is_open(pace: PlatformPace | None, now: datetime) -> bool:
    if pace is None:
        return True
    return (pace.closed_until is None or pace.closed_until <= now) and pace.down_since is None
