"""Agree that a shell is read and written, or withdraw it."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone

from vennpair.service.connect.models import User
from vennpair.service.kernel.audit.trail import record
from vennpair.service.pair.models import Consent, Pairing, Shell
from vennpair.service.pair.queries import require_instructor


def agree(shell: Shell, actor: User) -> Consent:
    """Note the agreement; once is enough, whoever of the shell's instructors gave it."""
    require_instructor(actor, shell)
    with transaction.atomic():
        Shell.objects.select_for_update(of=("self",)).get(pk=shell.pk)
        standing = Consent.objects.filter(shell=shell, withdrawn_at=None).first()
        if standing:
            return standing
        made = Consent.objects.create(shell=shell, user=actor)
        record(
            "consent.given",
            f"{actor.shown_name} agreed that Venn Pair reads and writes"
            f" {shell.label or shell.title}.",
            institution=shell.platform.institution,
            actor=actor,
            pairing=_current(shell),
        )
    return made


def withdraw(shell: Shell, actor: User) -> None:
    """End the agreement: nothing of the shell is read or written any more, a live pairing is
    paused.
    """
    require_instructor(actor, shell)
    with transaction.atomic():
        pairing = (
            Pairing.objects.select_for_update(of=("self",), no_key=True)
            .filter(shell=shell, state=Pairing.State.LIVE)
            .first()
        )
        Consent.objects.filter(shell=shell, withdrawn_at=None).update(withdrawn_at=timezone.now())
        if pairing is not None:
            pairing.state = Pairing.State.PAUSED
            pairing.save(update_fields=["state"])
        words = " The pairing was paused: scores are kept and wait." if pairing else ""
        record(
            "consent.withdrawn",
            f"{actor.shown_name} withdrew the agreement for {shell.label or shell.title}.{words}",
            institution=shell.platform.institution,
            actor=actor,
            pairing=_current(shell),
        )


def _current(shell: Shell) -> Pairing | None:
    return Pairing.objects.filter(shell=shell).exclude(state=Pairing.State.ENDED).first()
