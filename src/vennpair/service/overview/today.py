"""What needs somebody today, counted in a fixed number of queries however many shells there are."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from itertools import chain
from uuid import UUID
from zoneinfo import ZoneInfo

from django.core.cache import cache
from django.db.models import Count, Exists, Min, OuterRef, Q, QuerySet
from django.db.models.functions import TruncDate

from vennpair.core.overview.today import MOST, Need, in_order
from vennpair.service.connect.models import User
from vennpair.service.deploy.models import DriftFound
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.kinds import kind_of, names
from vennpair.service.pair.models import Pairing, Shell
from vennpair.service.pair.queries import pairings_for, sees_all, shells_for, shells_listed
from vennpair.service.reconcile.queries import agreement_listed
from vennpair.service.relay.models import Cell, LedgerEntry, Passage, PlatformPace

Counts = tuple[dict[date, int], dict[date, int]]
LATE, KNOWN_SECONDS = timedelta(hours=1), 3_600
RECENT = timedelta(days=14)  # how far back failed operations are told, and the chart goes
_ASLEEP = {
    Pairing.State.DRAFT: "not_ready",
    Pairing.State.READY: "nothing_placed",
    Pairing.State.PAUSED: "paused",
}


@dataclass(frozen=True, slots=True)
class Day:
    """How many scores came in and how many reached the gradebook on one day."""

    date: date
    received: int
    delivered: int


@dataclass(frozen=True, slots=True)
class Today:
    """The start page: ``needs`` are at most five hundred, ``more`` says how many were left out."""

    needs: list[Need]
    more: int
    shells: int
    live: int
    waiting: int
    days: list[Day]


def today_of(user: User, now: datetime) -> Today:
    """Return what needs somebody, most urgent first, with the last two weeks' scores."""
    pairings = list(
        pairings_for(user)
        .exclude(state=Pairing.State.ENDED)
        .only("id", "state", "relay_on", "shell__label", "shell__title", "shell__id")
        .select_related(None)
        .select_related("shell")
    )
    of = {each.pk: each for each in pairings}
    mine = pairings_for(user).exclude(state=Pairing.State.ENDED).select_related(None)
    needs = in_order(
        chain(
            _platforms(user),
            _scores(mine, of, now),
            _operations(mine, of, now),
            _differences(user),
            _changes(mine, of),
            _unpaired(user),
            _asleep(pairings),
        )
    )
    return Today(
        needs=needs[:MOST],
        more=max(0, len(needs) - MOST),
        shells=shells_for(user).count(),
        live=sum(each.state == Pairing.State.LIVE for each in pairings),
        waiting=Cell.objects.filter(
            pairing__in=mine, state__in=[Cell.State.WAITING, Cell.State.SENDING]
        ).count(),
        days=_days(mine, user, now),
    )


def _need(code: str, pairing: Pairing, count: int = 1, **more: object) -> Need:
    shell = pairing.shell
    return Need(
        code,
        count,
        shell=shell.label or shell.title,
        pairing=str(pairing.pk),
        shell_id=str(shell.pk),
        **more,  # type: ignore[arg-type]  # name and since
    )


def _platforms(user: User) -> list[Need]:
    down = PlatformPace.objects.filter(
        platform__shells__in=shells_for(user), down_since__isnull=False
    ).distinct()
    rows = down.values_list("platform__name", "down_since")
    return [Need("platform_down", name=name, since=since) for name, since in rows]


def _scores(mine: QuerySet[Pairing], of: Mapping[UUID, Pairing], now: datetime) -> list[Need]:
    """Return what of the scores does not get on, by pairing."""
    late = Q(state__in=[Cell.State.WAITING, Cell.State.SENDING], since__lt=now - LATE)
    rows = (
        Cell.objects.filter(pairing__in=mine)
        .filter(late | Q(state__in=[Cell.State.REFUSED, Cell.State.CLASH]))
        .values("pairing")
        .annotate(
            refused=Count("pk", Q(state=Cell.State.REFUSED)),
            clash=Count("pk", Q(state=Cell.State.CLASH)),
            late=Count("pk", late),
            oldest=Min("since"),
        )
    )
    found = []
    for row in rows:
        for name in ("refused", "clash", "late"):
            pairing = of[row["pairing"]]
            # A paused pairing, or one whose relay is off, waits on purpose.
            waits = pairing.state != Pairing.State.LIVE or not pairing.relay_on
            if row[name] and not (name == "late" and waits):
                found.append(_need(f"scores_{name}", pairing, row[name], since=row["oldest"]))
    return found


def _operations(mine: QuerySet[Pairing], of: Mapping[UUID, Pairing], now: datetime) -> list[Need]:
    """Return what failed and was neither retried nor undone since, and what is proposed."""
    again = Job.objects.filter(
        pairing=OuterRef("pairing"), kind=OuterRef("kind"), made_at__gt=OuterRef("made_at")
    )
    jobs = Job.objects.filter(pairing__in=mine, kind__in=names(), made_at__gt=now - RECENT)
    failed = jobs.filter(state=Job.State.FAILED).exclude(Exists(again)).order_by("-made_at")
    found = [
        _need(
            "operation_failed", of[job.pairing_id], name=kind_of(job).says(job), since=job.made_at
        )
        for job in failed.select_related("pairing")[:MOST]
    ]
    proposed = (
        jobs.filter(state=Job.State.PROPOSED)
        .values("pairing")
        .annotate(count=Count("pk"), oldest=Min("made_at"))
    )
    for row in proposed:
        found.append(_need("proposed", of[row["pairing"]], row["count"], since=row["oldest"]))
    return found


def _differences(user: User) -> list[Need]:
    listed = agreement_listed(user).prefetch_related(None).filter(urgent__gt=0)  # type: ignore[misc]  # annotated
    return [_need("differences", each, each.urgent) for each in listed]  # type: ignore[attr-defined]


def _changes(mine: QuerySet[Pairing], of: Mapping[UUID, Pairing]) -> list[Need]:
    rows = DriftFound.objects.filter(pairing__in=mine).values("pairing").annotate(n=Count("pk"))
    return [_need("changes", of[row["pairing"]], row["n"]) for row in rows]


def _unpaired(user: User) -> list[Need]:
    """Return copied shells one by one, and how many others have no pairing."""
    open_ones = shells_listed(user).prefetch_related(None)
    alone = open_ones.exclude(
        Exists(Pairing.objects.filter(shell=OuterRef("pk")).exclude(state=Pairing.State.ENDED))
    )
    copied: list[Shell] = list(alone.filter(from_paired=True)[:MOST])  # type: ignore[misc]  # annotated
    found = [
        Need("shell_copied", shell=shell.label or shell.title, shell_id=str(shell.pk))
        for shell in copied
    ]
    left = alone.filter(from_paired=False).count()  # type: ignore[misc]
    return [*found, Need("unpaired", left)] if left else found


def _asleep(pairings: list[Pairing]) -> list[Need]:
    found = [_need(_ASLEEP[each.state], each) for each in pairings if each.state in _ASLEEP]  # type: ignore[index]
    off = [each for each in pairings if each.state == Pairing.State.LIVE and not each.relay_on]
    return [*found, *(_need("relay_off", each) for each in off)]


def _days(mine: QuerySet[Pairing], user: User, now: datetime) -> list[Day]:
    """Return each of the last two weeks' days in the institution's zone, also the empty ones. Of a
    whole institution the days that are over are counted once an hour, as they do not change.
    """
    zone = ZoneInfo(user.institution.timezone if user.institution else "UTC")
    midnight = now.astimezone(zone).replace(hour=0, minute=0, second=0, microsecond=0)
    first = midnight - timedelta(days=RECENT.days - 1)
    key = f"days:{user.institution_id}:{midnight:%Y-%m-%d}" if sees_all(user) else ""
    over: Counts | None = cache.get(key) if key else None
    if over is None:
        over = _counted(mine, zone, first, midnight)
        if key:
            cache.set(key, over, KNOWN_SECONDS)
    counts = [
        {**one, **other}
        for one, other in zip(over, _counted(mine, zone, midnight, now), strict=True)
    ]
    days = [(first + timedelta(days=number)).date() for number in range(RECENT.days)]
    return [Day(day, *(each.get(day, 0) for each in counts)) for day in days]


def _counted(mine: QuerySet[Pairing], zone: ZoneInfo, since: datetime, until: datetime) -> Counts:
    """Return how many scores came in, and how many were delivered, on each day from a moment to
    before another.
    """
    received = LedgerEntry.objects.filter(
        pairing__in=mine, received_at__gte=since, received_at__lt=until
    ).annotate(day=TruncDate("received_at", tzinfo=zone))
    delivered = Passage.objects.filter(
        pairing__in=mine, at__gte=since, at__lt=until, what=Passage.What.ACCEPTED
    ).annotate(day=TruncDate("at", tzinfo=zone))
    one, other = (
        dict(rows.order_by().values_list("day").annotate(n=Count("pk")))
        for rows in (received, delivered)
    )
    return one, other
