"""Change a pairing's state, or turn its relay on or off."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from vennpair.core.pair.states import may_become
from vennpair.service.activity.audit import record
from vennpair.service.api.refusals import Refused
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.relay.actions.send_scores import enqueue_relay

_WORDS = {"live": "went live", "paused": "was paused: scores are kept and wait", "ended": "was ended; all scores stay", "ready": "is ready", "draft": "is a draft again"}


def change_state(pairing: Pairing, target: str, actor: Any) -> Pairing:
    """Move a pairing to another state. Raises Refused where its life does not allow that."""
    require_instructor(actor, pairing.shell)
    with transaction.atomic():
        locked = Pairing.objects.select_for_update(of=("self",)).select_related("shell__platform__institution", "course").get(pk=pairing.pk)
        if locked.state == target:
            return locked
        if not may_become(locked.state, target):
            raise Refused("wrong_state", f"A pairing that is {locked.state} cannot become {target}.", "A pairing goes from ready to live, may be paused and resumed, and is ended at last.")
        before, locked.state = locked.state, target
        locked.save(update_fields=["state"])
        record(f"pairing.{target}", f"The pairing {_WORDS[target]}.", pairing=locked, actor=actor, before={"state": before}, after={"state": target})
        enqueue_relay(locked)
    return locked


def turn_relay(pairing: Pairing, on: bool, actor: Any) -> Pairing:
    """Turn the relay on or off; what waits is sent once it is on and the pairing is live."""
    require_instructor(actor, pairing.shell)
    with transaction.atomic():
        locked = Pairing.objects.select_for_update(of=("self",)).select_related("shell__platform__institution", "course").get(pk=pairing.pk)
        if locked.relay_on != on:
            locked.relay_on = on
            locked.save(update_fields=["relay_on"])
            words = "turned on: scores go to the gradebook" if on else "turned off: scores are kept and wait"
            record("relay.on" if on else "relay.off", f"The relay was {words}.", pairing=locked, actor=actor)
        enqueue_relay(locked)
    return locked
