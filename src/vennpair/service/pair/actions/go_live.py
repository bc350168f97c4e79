"""A pairing goes live with the first links that learners can open."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.connect.models import User
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.trail import record


def go_live(pairing: Pairing, why: str, actor: User | None = None) -> None:
    """Turn a pairing live that is ready; any other state stays.

    ``why`` ends the sentence of the audit trail.
    """
    with transaction.atomic():
        if Pairing.objects.filter(pk=pairing.pk, state=Pairing.State.READY).update(
            state=Pairing.State.LIVE
        ):
            pairing.state = Pairing.State.LIVE
            record(
                "pairing.live",
                f"The pairing went live {why}.",
                pairing=pairing,
                actor=actor,
                before={"state": "ready"},
                after={"state": "live"},
            )
