"""Writing the audit trail of a pairing."""

from __future__ import annotations

from typing import Any

from vennpair.service.connect.models import User
from vennpair.service.kernel.audit.models import Event
from vennpair.service.kernel.audit.trail import record as record_for
from vennpair.service.pair.models import Pairing


def record(
    verb: str,
    sentence: str,
    *,
    pairing: Pairing,
    actor: User | None = None,
    before: Any = None,
    after: Any = None,
) -> Event:
    """Record one event of a pairing, in the caller's transaction; see ``kernel/audit/trail.py``."""
    return record_for(
        verb,
        sentence,
        institution=pairing.shell.platform.institution,
        pairing=pairing,
        actor=actor,
        before=before,
        after=after,
    )
