"""A placement has a new column: what its learners have earned so far goes there."""

from __future__ import annotations

from vennpair.service.deploy.models import Placement
from vennpair.service.relay.actions.send_scores import enqueue_relay
from vennpair.service.relay.models import Cell


def send_anew(placement: Placement) -> None:
    """Queue every score of a placement anew, in the caller's transaction; nothing of it stands in the new column."""
    fields = {"state": Cell.State.WAITING, "sent_given": None, "sent_maximum": None, "sent_timestamp": None, "sent_at": None, "tries": 0, "next_try": None, "reason": "", "remedy": ""}
    if Cell.objects.filter(placement=placement, learner__ledger__placement=placement).update(**fields):
        enqueue_relay(placement.pairing)
