"""Change when a pairing is compared automatically, and until when its grades are to be
submitted.
"""

from __future__ import annotations

from datetime import date
from typing import Any

from django.db import transaction

from vennpair.service.connect.models import User
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.reconcile.models import Schedule


def change_schedule(pairing: Pairing, changes: dict[str, Any], actor: User) -> Schedule:
    """Change ``nightly`` or ``grades_due``. Raises Refused where it is not theirs to change."""
    require_instructor(actor, pairing.shell)
    with transaction.atomic():
        before = Schedule.objects.filter(pairing=pairing).first() or Schedule(pairing=pairing)
        said = {name: _plain(getattr(before, name)) for name in changes}
        changed, _ = Schedule.objects.update_or_create(pairing=pairing, defaults=changes)
        record(
            "comparison.schedule",
            _sentence(changes),
            pairing=pairing,
            actor=actor,
            before=said,
            after={name: _plain(value) for name, value in changes.items()},
        )
    return changed


def _sentence(changes: dict[str, Any]) -> str:
    parts = []
    if "nightly" in changes:
        parts.append(
            "compared every night" if changes["nightly"] else "no longer compared at night"
        )
    if "grades_due" in changes:
        parts.append(
            f"grades are due on {changes['grades_due']}"
            if changes["grades_due"]
            else "no day is set on which grades are due"
        )
    return f"Changed: {', '.join(parts) or 'nothing'}."


def _plain(value: Any) -> Any:
    return value.isoformat() if isinstance(value, date) else value
