"""Writing the audit trail; called by actions, inside their transaction."""

from __future__ import annotations

from typing import Any

from vennpair.service.activity.models import Event
from vennpair.service.connect.models import Institution, User
from vennpair.service.pair.models import Pairing


def record(
    verb: str,
    sentence: str,
    *,
    pairing: Pairing | None = None,
    institution: Institution | None = None,
    actor: User | None = None,
    before: Any = None,
    after: Any = None,
) -> Event:
    """Record one event; a pairing brings its institution. ``actor`` None is the service itself.

    ``before`` and ``after`` are what changed, as plain values. Raises ValueError where neither
    pairing nor institution is given.
    """
    owner = institution or (pairing.shell.platform.institution if pairing else None)
    if owner is None:
        raise ValueError(f"the event {verb} belongs to nobody")
    return Event.objects.create(
        verb=verb,
        sentence=sentence[:400],
        pairing=pairing,
        institution=owner,
        actor=actor,
        before=before,
        after=after,
    )
