"""Tell each instructor in the morning what the night's comparisons found, as often as they wish."""

from __future__ import annotations

from datetime import date, datetime
from typing import cast
from zoneinfo import ZoneInfo

from django.conf import settings
from django.db import transaction
from django.db.models import Q

from vennpair.core.reconcile.digest import Wish, digest
from vennpair.service.connect.models import User
from vennpair.service.kernel.apart import apart
from vennpair.service.kernel.audit.notify import notify
from vennpair.service.pair.models import Pairing, ShellRole
from vennpair.service.reconcile.submission_check import news_of

MORNING = 7


def send_digests(now: datetime) -> int:
    """Look once a morning, in the institution's zone, at every instructor's shells.

    Return how many were told something.
    """

    def tell(user: User) -> int:
        local = now.astimezone(ZoneInfo(user.institution.timezone if user.institution else "UTC"))
        due = local.hour >= MORNING and user.digested_on != local.date()
        return _tell(user, local.date(), now) if due else 0

    people = User.objects.filter(is_active=True, institution__isnull=False)
    rows = people.select_related("institution").order_by("pk").iterator()
    return sum(apart(rows, tell, "sending a digest"))


def _tell(user: User, today: date, now: datetime) -> int:
    mine = ShellRole.objects.filter(user=user, role="instructor").values("shell")
    pairings = (
        Pairing.objects.filter(
            Q(state=Pairing.State.LIVE) | Q(state=Pairing.State.PAUSED), shell__in=mine
        )
        .select_related("shell__platform__institution")
        .order_by("shell__label", "pk")
    )
    news = news_of(pairings, now, settings.BASE_URL) if user.digest != User.Digest.NEVER else []
    made = digest(news, cast("Wish", user.digest), today)
    with transaction.atomic():
        if not User.objects.filter(pk=user.pk).exclude(digested_on=today).update(digested_on=today):
            return 0  # another worker was there first
        if made is None:
            return 0
        only = pairings[0] if len(pairings) == 1 else None
        notify(
            user,
            made.sentence,
            f"/pairings/{only.pk}/reconcile" if only else "/",
            only,
            body=made.body,
        )
    return 1
