"""Change somebody's role in the institution."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.connect.models import User
from vennpair.service.kernel.audit.trail import record
from vennpair.service.kernel.errors import Refused


def change_person(person: User, role: str, actor: User) -> User:
    """Make somebody ``administrator``, ``designer`` or ``teacher``.

    Raises Refused for the last administrator.
    """
    with transaction.atomic():
        administrators = list(
            User.objects.select_for_update()
            .filter(institution=actor.institution_id, is_staff=True)
            .values_list("pk", flat=True)
        )
        if role != "administrator" and administrators == [person.pk]:
            raise Refused(
                "last_administrator",
                "The institution needs an administrator, and this is the only one.",
                "Make somebody else administrator first.",
            )
        before = {"administrator": person.is_staff, "designer": person.is_designer}
        person.is_staff, person.is_designer = role == "administrator", role == "designer"
        person.save(update_fields=["is_staff", "is_designer"])
        record(
            "person.changed",
            f"{person.shown_name} is {role} now.",
            institution=actor.institution,
            actor=actor,
            before=before,
            after={"role": role},
        )
    return person
