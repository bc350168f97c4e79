"""The job bodies of this step; the queue finds this module."""

from __future__ import annotations

import logging

from django.conf import settings
from django.db.models import Q
from procrastinate.contrib.django import app

from vennpair.gateways.http import OutsideError
from vennpair.service.content.actions.carry_out_delivery import carry_out_delivery
from vennpair.service.content.actions.carry_out_import import carry_out_import
from vennpair.service.content.actions.refresh_catalogue import refresh_catalogue
from vennpair.service.content.actions.start_delivery import DELIVERY, UNDO
from vennpair.service.content.actions.undo_delivery import carry_out_undo
from vennpair.service.content.actions.write_cartridge import WRITE, carry_out_writing
from vennpair.service.kernel.apart import apart
from vennpair.service.kernel.jobs.periodic import every
from vennpair.service.kernel.jobs.running import carries_out
from vennpair.service.pair.models import Pairing

log = logging.getLogger(__name__)

carries_out("import", carry_out_import)
carries_out(DELIVERY, carry_out_delivery)
carries_out(UNDO, carry_out_undo)
carries_out(WRITE, carry_out_writing)


def _refresh(pairing: Pairing) -> None:
    try:
        refresh_catalogue(pairing)
    except OutsideError as error:
        log.warning("the catalogue of pairing %s was not read: %s", pairing.pk, error)


@every("41 3 * * *")
@app.task(queue="jobs", queueing_lock="catalogues")
def refresh_catalogues(timestamp: int) -> None:
    """Read the catalogues that looking for drift does not read anyway.

    A publisher that does not answer tonight is asked tomorrow.
    """
    if not settings.NIGHTLY:
        return
    unwatched = Q(state=Pairing.State.READY) | Q(state=Pairing.State.LIVE, shell__outline_url="")
    rows = Pairing.objects.filter(unwatched).select_related(
        "course__publisher", "shell__platform__institution"
    )
    apart(rows, _refresh, "reading a catalogue", transacts=False)
