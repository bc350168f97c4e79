"""Block somebody, let them in again, or take their parts in shells away."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.connect.models import Invitation, User
from vennpair.service.connect.sessions import end_sessions, end_tokens
from vennpair.service.kernel.audit.trail import record
from vennpair.service.kernel.errors import Refused


def block_person(person: User, actor: User | None, *, blocked: bool) -> User:
    """Block somebody everywhere at once: sessions, tokens, open invitations and account links end,
    and no launch lets them in; or let them in again, with nothing of that given back. ``actor``
    None is the operator of the service.

    Raises Refused for oneself and for the last administrator.
    """
    if blocked and actor is not None and person.pk == actor.pk:
        raise Refused(
            "yourself", "You cannot block yourself.", "Ask another administrator to do it."
        )
    with transaction.atomic():
        locked = User.objects.select_for_update().get(pk=person.pk)
        if blocked and locked.is_staff and _is_last(locked):
            raise Refused(
                "last_administrator",
                "The institution needs an administrator, and this is the only one.",
                "Make somebody else administrator first.",
            )
        locked.is_active = not blocked
        locked.save(update_fields=["is_active"])
        if blocked:
            end_sessions(user=locked)
            end_tokens(locked)
            Invitation.objects.filter(made_by=locked, used_at=None).delete()
            locked.account_links.all().delete()
        record(
            "person.blocked" if blocked else "person.let_in",
            f"{locked.shown_name} {'is blocked' if blocked else 'may sign in again'}.",
            institution=locked.institution,
            actor=actor,
            after={"blocked": blocked},
        )
    return locked


def remove_person(person: User, actor: User) -> None:
    """Block somebody and take away their parts in all shells and their identities at platforms;
    what they did stays on record under their name.
    """
    with transaction.atomic():
        block_person(person, actor, blocked=True)
        person.shell_roles.all().delete()
        person.identities.all().delete()
        record(
            "person.removed",
            f"{person.shown_name} was removed.",
            institution=actor.institution,
            actor=actor,
        )


def _is_last(person: User) -> bool:
    others = User.objects.filter(institution=person.institution_id, is_staff=True, is_active=True)
    return not others.exclude(pk=person.pk).exists()
