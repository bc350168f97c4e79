"""Which set-up a pairing is in the middle of."""

from __future__ import annotations

from vennpair.service.connect.models import User
from vennpair.service.kernel.jobs.models import UNFINISHED
from vennpair.service.pair.models import Pairing
from vennpair.service.set_up.models import SetUp


def begun_set_up(pairing: Pairing, user: User) -> SetUp | None:
    """Return somebody's newest set-up that a pairing is in the middle of: one that runs, or whose
    plan waits for them while nothing is placed. None where there is none.
    """
    mine = SetUp.objects.filter(made_by=user, sections__pairing=pairing).order_by("-made_at")
    running = mine.filter(sections__pairing=pairing, sections__job__state__in=UNFINISHED).first()
    if running is not None or pairing.placements.placed().exists():
        return running
    return mine.filter(started_at=None, sections__pairing=pairing, sections__undoing=None).first()
