"""The due date that scores wait for, and asking the publisher whether it moved before they go."""

from __future__ import annotations

import logging
from datetime import datetime, timedelta

from django.utils import timezone

from vennpair.core.deploy.dates import read_moment, same_moment, shifted
from vennpair.gateways.http import OutsideError
from vennpair.service.content.actions.refresh_catalogue import refresh_catalogue
from vennpair.service.content.models import CatalogueReading, Placement
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.models import Cell

ASKED_LATELY = timedelta(minutes=10)
ASK_AGAIN = timedelta(minutes=5)
NOT_KNOWN = "The publisher could not be asked whether the due date has moved; asked again soon."
log = logging.getLogger(__name__)


def due_of(placement: Placement, zone: str) -> str:
    """Return when a placement is due, ISO 8601: as it was deployed; where the publisher has moved
    the date since and nobody followed yet, the later of the two, so that nothing goes too early.
    """
    moved = placement.item.due_at
    seen = placement.seen.get("due_at", "")
    if not moved or not seen or same_moment(moved, seen):
        return placement.due_at
    there, here = (
        read_moment(shifted(moved, placement.shift_days, zone)[0]),
        read_moment(placement.due_at),
    )
    latest = max((each for each in (there, here) if each is not None), default=None)
    return latest.isoformat() if latest else ""


def know_due_dates(pairing: Pairing, now: datetime) -> None:
    """Read the publisher's dates where scores are about to go because a due date has come; where it
    does not answer, they wait.
    """
    coming = Cell.objects.filter(pairing=pairing, state=Cell.State.HELD, why="due", until__lte=now)
    publisher = pairing.course.publisher
    if not publisher.oneroster_url or not coming.exists():
        return
    last = CatalogueReading.objects.filter(pairing=pairing).order_by("-at").first()
    if last is not None and now - last.at < ASKED_LATELY:
        return
    try:
        refresh_catalogue(pairing)
    except OutsideError as error:
        log.warning("the due dates of pairing %s were not read: %s", pairing.pk, error)
        coming.update(until=timezone.now() + ASK_AGAIN, reason=NOT_KNOWN)
