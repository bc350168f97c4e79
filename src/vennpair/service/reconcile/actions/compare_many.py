"""Compare many pairings, a few of one platform at a time: at night, or because somebody asked for
all.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from datetime import datetime

from django.db import transaction

from vennpair.core.pair.nightly_window import night_of
from vennpair.service.connect.models import User
from vennpair.service.kernel.apart import apart
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.pair.models import Pairing
from vennpair.service.reconcile.actions.start_comparison import start_comparison
from vennpair.service.reconcile.models import Comparison, Schedule

AT_ONCE = 2  # so many of one platform: each already has sixteen calls in flight


def ask_for_comparisons(pairings: Iterable[Pairing], actor: User, now: datetime) -> int:
    """Note that these are to be compared, and begin as many as their platforms have room for.

    Return how many were noted.
    """
    count = 0
    with transaction.atomic():
        for pairing in pairings:
            Schedule.objects.update_or_create(
                pairing=pairing, defaults={"asked_at": now, "asked_by": actor}
            )
            count += 1
    begin_asked()
    return count


def ask_for_the_night(now: datetime) -> int:
    """Ask for every live pairing whose night it is and that was not compared in it.

    Return how many.
    """

    def ask(pairing: Pairing) -> bool:
        night, known = night_of(now, pairing.shell.zone), getattr(pairing, "schedule", None)
        if not night or (known is not None and known.night == night):
            return False
        Schedule.objects.update_or_create(
            pairing=pairing, defaults={"night": night, "asked_at": now, "asked_by": None}
        )
        return True

    rows = (
        Pairing.objects.filter(state=Pairing.State.LIVE)
        .exclude(schedule__nightly=False)
        .select_related("schedule", "shell__platform__institution")
    )
    return sum(apart(rows, ask, "asking for the night's comparison"))


def _begin(asked: Schedule) -> None:
    start_comparison(asked.pairing, asked.asked_by)
    Schedule.objects.filter(pk=asked.pk).update(asked_at=None)


def begin_asked(ended: Job | None = None) -> int:
    """Begin what was asked for, as far as its platform has room.

    ``ended`` is a comparison that makes room. Return how many.
    """
    begun = 0
    with transaction.atomic():
        waiting = list(
            Schedule.objects.select_for_update(of=("self",), skip_locked=True)
            .exclude(asked_at=None)
            .select_related(
                "pairing__shell__platform__institution", "pairing__course__publisher", "asked_by"
            )
            .order_by("asked_at", "pk")
        )
        if not waiting:
            return 0
        running = (
            Comparison.objects.filter(job__state__in=[Job.State.QUEUED, Job.State.RUNNING])
            .exclude(job=ended)
            .values_list("pairing__shell__platform", flat=True)
        )
        busy = Counter(running)
        for each in waiting:
            platform = each.pairing.shell.platform_id
            if busy[platform] >= AT_ONCE:
                continue
            busy[platform] += 1
            begun += len(apart([each], _begin, "beginning a comparison"))
    return begun
