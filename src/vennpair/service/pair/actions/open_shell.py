"""Somebody opened Venn Pair from a shell: learn who they are and what the shell offers."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.pair.copies import placement_id
from vennpair.service.connect.models import Identity, Platform, User
from vennpair.service.pair.actions.refresh_roster import LONGEST_EMAIL, subs_of
from vennpair.service.pair.hooks import learners_returned
from vennpair.service.pair.models import Learner, Pairing, Shell, ShellRole, new_sub
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.launch import Launch
from vennpair.standards.lti.roles import TEACHES, standing

LONGEST_NAME = 150  # of a user's name here


def open_shell(platform: Platform, launch: Launch, *, whole: bool = True) -> Shell:
    """Store what a launch tells of its shell.

    A message that is not ``whole``, as a deep linking request, only adds. Raises LtiError where it
    comes from no course.
    """
    if launch.context is None:
        raise LtiError(
            "no_context", "This link does not belong to a course.", "LTI Core 1.3, 5.4.1"
        )
    fields = {
        "title": (launch.context.title or launch.context.label or "Untitled course")[:300],
        "label": launch.context.label[:100],
        "timezone": launch.timezone[:60],
        "lineitems_url": launch.grades.lineitems if launch.grades else "",
        "memberships_url": launch.memberships_url,
        "outline_url": launch.outline.outline if launch.outline else "",
        "return_url": launch.return_url,
        "history": _history(platform, launch),
        "scopes": sorted(
            {
                *(launch.grades.scopes if launch.grades else ()),
                *(launch.outline.scopes if launch.outline else ()),
            }
        ),
    }
    # Some platforms name services only when staff launch: a learner's launch adds, it takes nothing
    # away.
    teaches = standing(launch.roles) in TEACHES
    known = {
        name: value
        for name, value in fields.items()
        if value or (whole and teaches and name != "history")
    }
    shell, _ = Shell.objects.update_or_create(
        platform=platform, context_id=launch.context.id, defaults=known, create_defaults=fields
    )
    return shell


def _history(platform: Platform, launch: Launch) -> list[str]:
    """Return the contexts that a shell was copied from: as the platform says, else as a link tells
    that belongs to another shell.
    """
    if launch.context_history:
        return list(launch.context_history)[:50]
    carried, context = placement_id(launch.custom), launch.context.id if launch.context else ""
    elsewhere = Pairing.objects.filter(shell__platform=platform).exclude(shell__context_id=context)
    contexts = elsewhere.values_list("shell__context_id", flat=True)
    found = contexts.filter(placements__pk=carried).first() if carried else None
    if found is None and launch.link_history:
        found = contexts.filter(placements__resource_link_id__in=launch.link_history).first()
    return [found] if found else []


def admit_teacher(platform: Platform, shell: Shell, launch: Launch) -> User:
    """Return the user of somebody who teaches, assists or designs, making them at their first
    launch.
    """
    role = standing(launch.roles)
    with transaction.atomic():
        mine = Identity.objects.filter(platform=platform, subject=launch.person.sub).select_related(
            "user"
        )
        if (
            not mine.exists()
        ):  # two windows of a newcomer: the second waits here, and finds whom the first one made
            Platform.objects.select_for_update(no_key=True).get(pk=platform.pk)
        known = mine.first()
        user = known.user if known else _new_user(platform, launch)
        if not user.is_active:
            raise LtiError("blocked", "Your administrator has blocked you in Venn Pair.")
        ShellRole.objects.update_or_create(shell=shell, user=user, defaults={"role": role})
    return user


def end_role(platform: Platform, shell: Shell, subject: str) -> None:
    """Take away what somebody could do in a shell in which they teach no more, as their launch
    tells.
    """
    ShellRole.objects.filter(
        shell=shell, user__identities__platform=platform, user__identities__subject=subject
    ).delete()


def admit_learner(shell: Shell, launch: Launch) -> Learner:
    """Return the learner of a launch, registering them at their first."""
    person = launch.person
    fields: dict[str, Any] = {
        "name": person.name[:200],
        "given_name": person.given_name[:100],
        "family_name": person.family_name[:100],
        "email": person.email if len(person.email) <= LONGEST_EMAIL else "",
        "number": person.sourced_id[:100],
        "active": True,
    }
    known = {name: value for name, value in fields.items() if value}
    with transaction.atomic():
        back = Learner.objects.filter(shell=shell, subject=person.sub, active=False).exists()
        fresh = {"sub": subs_of(shell, [person.sub]).get(person.sub) or new_sub()}
        learner, _ = Learner.objects.update_or_create(
            shell=shell, subject=person.sub, defaults=known, create_defaults=known | fresh
        )
        if learner.first_launch is None:
            learner.first_launch = timezone.now()
            learner.save(update_fields=["first_launch"])
        if back:
            learners_returned([learner.pk])
    return learner


def _new_user(platform: Platform, launch: Launch) -> User:
    """Make a user; the address of the college is a person's name here, where nobody else has it."""
    person = launch.person
    own = f"{person.sub[:100]}@{platform.pk}"
    username = person.email if 0 < len(person.email) <= LONGEST_NAME else own
    if User.objects.filter(username__iexact=username).exists():
        username = own if not User.objects.filter(username__iexact=own).exists() else new_sub()
    user = User(
        username=username,
        email=person.email if len(person.email) <= LONGEST_EMAIL else "",
        first_name=(person.given_name or ("" if person.family_name else person.name))[:150],
        last_name=person.family_name[:150],
        institution=platform.institution,
    )
    user.set_unusable_password()
    user.save()
    Identity.objects.create(platform=platform, subject=person.sub, user=user)
    return user
