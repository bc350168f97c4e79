"""Change a pairing's state, say before what that does, or turn its relay on or off."""

from __future__ import annotations

from django.db import IntegrityError, transaction
from django.utils import timezone

from vennpair.core.pair.states import Stock, consequences, may_become, may_undo
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.actions.pair_course import may_share
from vennpair.service.pair.consent import agreed, consent_needed
from vennpair.service.pair.hooks import pairing_changed, scores_of
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record

_WORDS = {
    "live": "went live",
    "paused": "was paused: scores are kept and wait",
    "ended": "was ended; all scores stay",
    "ready": "is ready",
    "draft": "is a draft again",
}


def foresee(pairing: Pairing, target: str) -> list[str]:
    """Say in sentences what a change of state would do. Raises Refused where it is not possible."""
    _require_next(pairing, target)
    placed, scores = pairing.placements.placed(), scores_of(pairing)
    shell, course = pairing.shell, pairing.course
    stock = Stock(
        placed.count(),
        placed.exclude(column_url="").count(),
        sum(each.sent for each in scores),
        sum(each.waiting for each in scores),
        shell.label or shell.title,
        f"{course.title}, {course.code}",
    )
    return consequences(target, stock, timezone.now())


def change_state(pairing: Pairing, target: str, actor: User) -> Pairing:
    """Move a pairing to another state. Raises Refused where its life does not allow that."""
    require_instructor(actor, pairing.shell)
    try:
        with transaction.atomic():
            return _change(pairing, target, actor)
    except IntegrityError:
        raise Refused(
            "shell_paired", "The shell has another pairing by now.", "End that one first."
        ) from None


def turn_relay(pairing: Pairing, on: bool, actor: User) -> Pairing:
    """Turn the relay on or off; what waits is sent once it is on and the pairing is live."""
    require_instructor(actor, pairing.shell)
    with transaction.atomic():
        locked = _locked(pairing)
        if locked.relay_on != on:
            locked.relay_on = on
            locked.save(update_fields=["relay_on"])
            words = (
                "turned on: scores go to the gradebook"
                if on
                else "turned off: scores are kept and wait"
            )
            record(
                "relay.on" if on else "relay.off",
                f"The relay was {words}.",
                pairing=locked,
                actor=actor,
            )
        pairing_changed(locked)
    return locked


def _change(pairing: Pairing, target: str, actor: User) -> Pairing:
    locked = _locked(pairing)
    if locked.state == target:
        return locked
    _require_next(locked, target)
    if target == "live" and not agreed(locked.shell):
        raise consent_needed(locked.shell)
    before, locked.state = locked.state, target
    locked.ended_at = timezone.now() if target == "ended" else None
    locked.save(update_fields=["state", "ended_at"])
    words = (
        "was restored; it is paused until you resume it" if before == "ended" else _WORDS[target]
    )
    record(
        f"pairing.{target}",
        f"The pairing {words}.",
        pairing=locked,
        actor=actor,
        before={"state": before},
        after={"state": target},
    )
    pairing_changed(locked)
    return locked


def _require_next(pairing: Pairing, target: str) -> None:
    if not may_become(pairing.state, target):
        raise Refused(
            "wrong_state",
            f"A pairing that is {pairing.state} cannot become {target}.",
            "A pairing goes from ready to live, may be paused and resumed, and is ended at last.",
        )
    if pairing.state == "ended":
        if not may_undo(pairing.ended_at, timezone.now()):
            raise Refused(
                "too_late",
                "This pairing was ended more than 30 days ago.",
                "Pair the shell again; its links are pointed at the new pairing.",
            )
        if not may_share(pairing.course, pairing):
            raise Refused(
                "course_paired",
                "The homework course is paired with another shell by now.",
                "End that pairing first, or pair with another course.",
            )


def _locked(pairing: Pairing) -> Pairing:
    return (
        Pairing.objects.select_for_update(of=("self",), no_key=True)
        .select_related("shell__platform__institution", "course__publisher")
        .get(pk=pairing.pk)
    )
