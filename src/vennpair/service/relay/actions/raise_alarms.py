"""Say once when scores wait longer than they should: to the shell's instructors, and to
administrators where a platform is down.
"""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import Min, Q
from django.db.models.functions import Coalesce

from vennpair.core.relay.health import span
from vennpair.service.connect.models import User
from vennpair.service.kernel.apart import apart
from vennpair.service.kernel.audit.notify import notify
from vennpair.service.kernel.audit.trail import record
from vennpair.service.pair.models import Pairing, ShellRole
from vennpair.service.relay.models import Cell, PlatformPace, RelaySetting
from vennpair.service.relay.queries import ON_THE_WAY, oldest_of, setting_of

PLATFORM_PATIENCE = timedelta(minutes=15)


def raise_alarms(now: datetime) -> int:
    """Tell of every pairing whose oldest score waits too long, once until all is well again.

    Return how many were told.
    """
    stuck = Q(state__in=ON_THE_WAY) | Q(state=Cell.State.HELD, why="setting")
    oldest = dict(
        Cell.objects.filter(stuck, pairing__state=Pairing.State.LIVE, pairing__relay_on=True)
        .order_by()
        .values("pairing")
        .annotate(at=Min(Coalesce("since", "changed_at")))
        .values_list("pairing", "at")
    )

    def alarm(pairing: Pairing) -> bool:
        setting = setting_of(pairing)
        waits = now - oldest[pairing.pk] > timedelta(minutes=setting.alarm_minutes)
        if late := setting.alarmed_at is None and waits:
            _tell(pairing, now)
        return late

    rows = Pairing.objects.filter(pk__in=oldest).select_related("shell__platform__institution")
    told = sum(apart(rows, alarm, "raising an alarm"))
    RelaySetting.objects.exclude(alarmed_at=None).exclude(pairing__in=oldest).update(
        alarmed_at=None
    )
    return told + _platforms(now)


def _tell(pairing: Pairing, now: datetime) -> None:
    cell = oldest_of(pairing)
    if cell is None:
        return
    since = cell.since or cell.changed_at
    name = pairing.shell.label or pairing.shell.title
    sentence = (
        f"{name}: a score of {cell.learner.name} in '{cell.placement.title[:80]}' has waited for"
        f" {span(now - since)}. {cell.reason}".strip()
    )
    with transaction.atomic():
        RelaySetting.objects.update_or_create(pairing=pairing, defaults={"alarmed_at": now})
        record(
            "relay.alarm",
            sentence,
            institution=pairing.shell.platform.institution,
            pairing=pairing,
        )
        for role in ShellRole.objects.filter(shell=pairing.shell, role="instructor").select_related(
            "user"
        ):
            notify(role.user, sentence, f"/pairings/{pairing.pk}/relay", pairing)


def _platforms(now: datetime) -> int:
    told = 0
    for pace in PlatformPace.objects.filter(
        down_since__lt=now - PLATFORM_PATIENCE, alarmed_at=None
    ).select_related("platform__institution"):
        sentence = (
            f"{pace.platform.name} has not answered for {span(now - (pace.down_since or now))}; scores wait"
            f" and are sent automatically once it is back. {pace.reason}"
        )
        with transaction.atomic():
            PlatformPace.objects.filter(pk=pace.pk).update(alarmed_at=now)
            record("platform.down", sentence, institution=pace.platform.institution)
            for user in User.objects.filter(
                institution=pace.platform.institution, is_staff=True, is_active=True
            ):
                notify(user, sentence, "/connections")
        told += 1
    PlatformPace.objects.filter(down_since=None).exclude(alarmed_at=None).update(alarmed_at=None)
    return told
