"""Read a shell's members again (NRPS)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import datetime

from django.db import transaction
from django.db.models import F
from django.utils import timezone

from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.hooks import learners_returned
from vennpair.service.pair.models import Learner, Shell, ShellRole, new_sub
from vennpair.standards.lti.members import Member
from vennpair.standards.lti.roles import TEACHES, is_tester, standing

LONGEST_EMAIL = 254  # RFC 5321, 4.5.3.1.3
_READ = ["name", "given_name", "family_name", "email", "number", "active", "listed_at"]


def refresh_roster(shell: Shell) -> list[Learner]:
    """Return the learners of a shell as the platform lists them now; who left stays, marked
    inactive.

    Raises OutsideError.
    """
    members = shell_gateway(shell).members(shell.memberships_url)
    listed = [
        each for each in members if standing(each.roles) == "learner" and not is_tester(each.roles)
    ]
    now = timezone.now()
    people = {each.user_id: each for each in listed}
    known = subs_of(shell, people)
    rows = [_learner(shell, each, now, known.get(each.user_id)) for each in people.values()]
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
        _take_rights(shell, members)
        Shell.objects.filter(pk=shell.pk).update(roster_at=now)
        back = Learner.objects.filter(pk__in=away, active=True)
        learners_returned(back.values_list("pk", flat=True))
    return list(
        Learner.objects.filter(shell=shell, active=True).order_by("family_name", "given_name", "pk")
    )


def _take_rights(shell: Shell, members: Sequence[Member]) -> None:
    """Let nobody keep a part in a shell that its roster gives them no more.

    Who is listed has the part that is listed. Who is not loses it if the roster named them before:
    some rosters name learners only, and some people teach without being listed.
    """
    now = {each.user_id: standing(each.roles) for each in members if each.active}
    held = ShellRole.objects.filter(shell=shell, user__identities__platform=shell.platform_id)
    for key, subject, listed in held.values_list("pk", "user__identities__subject", "listed"):
        what = now.get(subject)
        if what in TEACHES:
            ShellRole.objects.filter(pk=key).update(role=what, listed=True)
        elif what is not None or listed:
            ShellRole.objects.filter(pk=key).delete()


def subs_of(shell: Shell, subjects: Iterable[str]) -> dict[str, str]:
    """Return under which ``sub`` publishers know people of the shell's platform, by its own id of
    them; where they know one under several, from before there was one for all shells, under that
    which was used first.
    """
    rows = (
        Learner.objects.filter(shell__platform=shell.platform_id, subject__in=list(subjects))
        .order_by(F("first_launch").desc(nulls_first=True), "-pk")
        .values_list("subject", "sub")
    )
    return dict(rows.iterator())


def _learner(shell: Shell, each: Member, now: datetime, sub: str | None) -> Learner:
    name = each.name or f"{each.given_name} {each.family_name}".strip()
    return Learner(
        shell=shell,
        subject=each.user_id,
        sub=sub or new_sub(),
        name=name[:200],
        given_name=each.given_name[:100],
        family_name=each.family_name[:100],
        email=each.email if len(each.email) <= LONGEST_EMAIL else "",
        number=each.sourced_id[:100],
        active=each.active,
        listed_at=now,
    )
