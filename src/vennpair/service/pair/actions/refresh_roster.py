"""Read a shell's members again (NRPS)."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Learner, Shell
from vennpair.standards.lti.vocabulary import is_learner


def refresh_roster(shell: Shell) -> list[Learner]:
    """Return the learners of a shell as the platform lists them now; who left stays, marked inactive.

    Raises OutsideError.
    """
    members = [each for each in shell_gateway(shell).members(shell.memberships_url) if is_learner(list(each.roles))]
    with transaction.atomic():
        known = {learner.subject: learner for learner in Learner.objects.select_for_update().filter(shell=shell)}
        for each in members:
            learner = known.get(each.user_id) or Learner(shell=shell, subject=each.user_id)
            learner.name = each.name or f"{each.given_name} {each.family_name}".strip()
            learner.given_name, learner.family_name = each.given_name, each.family_name
            learner.email, learner.number, learner.active = each.email, each.sourced_id, each.active
            learner.save()
        listed = {each.user_id for each in members}
        Learner.objects.filter(shell=shell).exclude(subject__in=listed).update(active=False)
    return list(Learner.objects.filter(shell=shell, active=True).order_by("family_name", "given_name", "pk"))
