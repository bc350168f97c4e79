"""Writing the audit trail; called by actions, inside their transaction."""

from __future__ import annotations

from typing import Any

from vennpair.service.activity.models import Event


def record(
    verb: str,
    sentence: str,
    *,
    pairing: Any = None,
    institution: Any = None,
    actor: Any = None,
    before: Any = None,
    after: Any = None,
) -> Event:
    """Record one event; a pairing brings its institution. ``actor`` None is the service itself."""
    owner = institution or pairing.shell.platform.institution
    return Event.objects.create(
        verb=verb,
        sentence=sentence[:400],
        pairing=pairing,
        institution=owner,
        actor=actor,
        before=before,
        after=after,
    )
