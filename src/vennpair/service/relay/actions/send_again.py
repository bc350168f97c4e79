"""Send again: put cells of a pairing back into the queue, all or only what differs."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import QuerySet

from vennpair.service.activity.audit import record
from vennpair.service.api.refusals import Refused
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.relay.actions.send_scores import enqueue_relay
from vennpair.service.relay.models import Cell


def cells_to_send(pairing: Pairing, *, force: bool) -> QuerySet[Cell]:
    """Return the cells that sending again means: what is not accepted, or with ``force`` everything that has a score."""
    cells = Cell.objects.filter(placement__pairing=pairing).exclude(state=Cell.State.EMPTY)
    return cells if force else cells.exclude(state=Cell.State.ACCEPTED)


def send_again(pairing: Pairing, actor: Any, *, force: bool = False) -> int:
    """Queue every cell that is not accepted; with ``force`` also what was accepted. Return how many.

    Raises Refused where the relay is off or the pairing is not live.
    """
    require_instructor(actor, pairing.shell)
    if not pairing.relay_on or pairing.state != Pairing.State.LIVE:
        raise Refused("relay_off", "The relay of this pairing is off, so nothing is sent.", "Turn it on with 'vennpair relay on', or in the console.")
    with transaction.atomic():
        count = cells_to_send(pairing, force=force).update(state=Cell.State.WAITING, next_try=None, tries=0, reason="", remedy="", force=force)
        record("relay.again", f"{count} scores were queued to be sent again.", pairing=pairing, actor=actor, after={"cells": count, "forced": force})
        if count:
            enqueue_relay(pairing)
    return count
