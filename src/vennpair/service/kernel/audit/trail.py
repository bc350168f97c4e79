"""Writing the audit trail; called by actions, inside their transaction."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.base_user import AbstractBaseUser
from django.db.models import Model

from vennpair.service.kernel.audit.models import Event
from vennpair.service.kernel.request_id import current
from vennpair.service.kernel.web.acting import note_acted


def record(
    verb: str,
    sentence: str,
    *,
    institution: Model | None,
    pairing: Model | None = None,
    actor: AbstractBaseUser | None = None,
    before: Any = None,
    after: Any = None,
) -> Event:
    """Record one event of an institution, and of a pairing where it concerns one. ``actor`` None is
    the service itself. ``before`` and ``after`` are what changed, as plain values. Raises
    ValueError for an event that belongs to nobody.
    """
    if institution is None:
        raise ValueError(f"the event {verb} belongs to nobody")
    note_acted()
    return Event.objects.create(
        verb=verb,
        sentence=sentence[:400],
        pairing_id=pairing.pk if pairing else None,
        institution_id=institution.pk,
        actor_id=actor.pk if actor else None,
        who=actor.get_username()[:150] if actor else "",
        before=before,
        after=after,
        request=current(),
    )
