"""Link an instructor with their account at a publisher: once, shown, never silently, and it can be
undone.
"""

from __future__ import annotations

import uuid

from django.db import transaction
from django.utils import timezone

from vennpair.core.pair.guess import fold
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.connect.models import Publisher, User
from vennpair.service.kernel.audit.trail import record
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.models import AccountLink, HomeworkCourse
from vennpair.standards.provisioning import Account


def begin_account(publisher: Publisher, actor: User) -> AccountLink:
    """Begin, or begin again: the way to the publisher is good for one answer. Raises Refused."""
    if not publisher.can_launch:
        raise Refused(
            "publisher_off",
            f"{publisher.name} is not connected at the moment.",
            "Tell your administrator.",
        )
    with transaction.atomic():
        link, _ = AccountLink.objects.select_for_update().get_or_create(
            user=actor, publisher=publisher
        )
        link.nonce = uuid.uuid4().hex
        link.save(update_fields=["nonce"])
    return link


def take_account(link: AccountLink, account: Account) -> AccountLink:
    """Note what the publisher says; an account that looks like somebody else's waits for the user's
    word.
    """
    with transaction.atomic():
        locked = (
            AccountLink.objects.select_for_update(of=("self",))
            .select_related("user__institution", "publisher")
            .get(pk=link.pk)
        )
        locked.account_id, locked.name, locked.email, locked.nonce = (
            account.id[:255],
            account.name[:200],
            account.email[:254],
            "",
        )
        locked.state = (
            AccountLink.State.LINKED if _looks_right(locked) else AccountLink.State.PENDING
        )
        locked.linked_at = timezone.now() if locked.state == AccountLink.State.LINKED else None
        locked.save()
        verb = "linked" if locked.linked_at else "named and waits for confirmation"
        record(
            "account.named",
            f"The account {_shown(locked)} at {locked.publisher.name} was {verb}.",
            institution=locked.user.institution,
            actor=locked.user,
            after={"account": account.id},
        )
    if locked.state == AccountLink.State.LINKED:
        read_courses(locked)
    return locked


def look_for_account(link: AccountLink) -> AccountLink:
    """Ask the publisher which account launched under the user's subject, where it did not send its
    word. Raises OutsideError, Refused.
    """
    gateway, subject = publisher_gateway(link.publisher), link.user.subject
    if "accounts" in link.publisher.features:
        try:
            return take_account(link, gateway.account_of(subject))
        except OutsideError as error:
            if error.failure.code != "gone":
                raise
    else:
        for each in gateway.all_teachers():
            if subject in each.lti_subs:
                return take_account(
                    link,
                    Account(
                        each.sourced_id, f"{each.given_name} {each.family_name}".strip(), each.email
                    ),
                )
    raise Refused(
        "account_unknown",
        f"{link.publisher.name} does not know yet which account is yours.",
        f"Open {link.publisher.name} from here, sign in there, and come back.",
    )


def confirm_account(link: AccountLink, actor: User) -> AccountLink:
    """The user says that the account is theirs though it looks like somebody else's."""
    with transaction.atomic():
        locked = (
            AccountLink.objects.select_for_update(of=("self",))
            .select_related("user__institution", "publisher")
            .get(pk=link.pk, user=actor)
        )
        if locked.state == AccountLink.State.BEGUN:
            raise Refused(
                "account_unknown",
                f"{locked.publisher.name} has not said yet which account is yours.",
                "Open the publisher from here first.",
            )
        locked.state, locked.linked_at = AccountLink.State.LINKED, timezone.now()
        locked.save()
        record(
            "account.linked",
            f"The account {_shown(locked)} at {locked.publisher.name} was confirmed.",
            institution=actor.institution,
            actor=actor,
        )
    read_courses(locked)
    return locked


def undo_account(link: AccountLink, actor: User) -> None:
    """Forget the link here; the publisher keeps what it knows. Pairings stay as they are."""
    with transaction.atomic():
        record(
            "account.undone",
            f"The account {_shown(link)} at {link.publisher.name} is no longer linked.",
            institution=actor.institution,
            actor=actor,
            before={"account": link.account_id},
        )
        AccountLink.objects.filter(pk=link.pk, user=actor).delete()


def read_courses(link: AccountLink) -> None:
    """Note which courses the account teaches.

    A publisher that does not say leaves the list as it was.
    """
    try:
        taught = [
            each.sourced_id
            for each in publisher_gateway(link.publisher).classes_of_teacher(link.account_id)
        ]
    except OutsideError:
        return
    AccountLink.objects.filter(pk=link.pk).update(courses=taught)
    link.courses = taught


def may_copy(link: AccountLink, course: HomeworkCourse) -> bool:
    """Say whether a linked account may copy a course: its own, or one that a colleague shares."""
    if course.shared or course.sourced_id in link.courses:
        return True
    read_courses(link)  # it may have been made since
    return course.sourced_id in link.courses


def _looks_right(link: AccountLink) -> bool:
    """Say whether the account bears the user's address or name."""
    user = link.user
    return (bool(link.email) and fold(link.email) == fold(user.email or user.username)) or (
        bool(link.name) and fold(link.name) == fold(user.shown_name)
    )


def _shown(link: AccountLink) -> str:
    return f"{link.name} ({link.email})" if link.email else link.name or link.account_id
