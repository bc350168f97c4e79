"""Read a shell's members again (NRPS)."""

from __future__ import annotations

from datetime import datetime

from django.db import transaction
from django.utils import timezone

from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Learner, Shell
from vennpair.service.relay.waking import wake_returned
from vennpair.standards.lti.members import Member
from vennpair.standards.lti.vocabulary import is_learner

_READ = ["name", "given_name", "family_name", "email", "number", "active", "listed_at"]


def refresh_roster(shell: Shell) -> list[Learner]:
    """Return the learners of a shell as the platform lists them now; who left stays, marked
    inactive.

    Raises OutsideError.
    """
    listed = [
        each
        for each in shell_gateway(shell).members(shell.memberships_url)
        if is_learner(list(each.roles))
    ]
    now = timezone.now()
    rows = [_learner(shell, each, now) for each in {each.user_id: each for each in listed}.values()]
    with transaction.atomic():
        away = list(Learner.objects.filter(shell=shell, active=False).values_list("pk", flat=True))
        # One statement, so that two pages that read the roster at once, or a launch meanwhile, make
        # nobody twice.
        Learner.objects.bulk_create(
            rows, update_conflicts=True, unique_fields=["shell", "subject"], update_fields=_READ
        )
        Learner.objects.filter(shell=shell).exclude(
            subject__in=[each.subject for each in rows]
        ).update(active=False)
        Shell.objects.filter(pk=shell.pk).update(roster_at=now)
        wake_returned(Learner.objects.filter(pk__in=away, active=True).values_list("pk", flat=True))
    return list(
        Learner.objects.filter(shell=shell, active=True).order_by("family_name", "given_name", "pk")
    )


def _learner(shell: Shell, each: Member, now: datetime) -> Learner:
    name = each.name or f"{each.given_name} {each.family_name}".strip()
    return Learner(
        shell=shell,
        subject=each.user_id,
        name=name,
        given_name=each.given_name,
        family_name=each.family_name,
        email=each.email,
        number=each.sourced_id,
        active=each.active,
        listed_at=now,
    )
