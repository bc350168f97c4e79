"""Take a score that a publisher reports: into the ledger, and on its way, in one transaction."""

from __future__ import annotations

import hashlib
from datetime import datetime
from typing import Any

from django.db import IntegrityError, transaction
from django.db.models import F
from django.db.models.functions import Coalesce
from django.utils import timezone

from vennpair.service.deploy.models import Placement
from vennpair.service.pair.models import Learner
from vennpair.service.relay.models import Cell, LedgerEntry
from vennpair.service.relay.waking import enqueue_relay, interrupted
from vennpair.standards.lti.grades import Score

LONGEST_COMMENT = 5000


def receive_score(placement: Placement, learner: Learner, score: Score, via: str = LedgerEntry.Via.PUSH) -> bool:
    """Store a report; the very same report again changes nothing. Return whether it is new."""
    digest = digest_of(score)
    try:
        with transaction.atomic():
            _store(placement, learner, score, via, digest)
    except IntegrityError:
        # Known already; else the cell's first report came at this very moment, and the cell is there now.
        if LedgerEntry.objects.filter(placement=placement, learner=learner, timestamp=score.timestamp, digest=digest).exists():
            return False
        with transaction.atomic():
            _store(placement, learner, score, via, digest)
    return True


def _store(placement: Placement, learner: Learner, score: Score, via: str, digest: str) -> None:
    fields: dict[str, Any] = {"given": score.given, "maximum": score.maximum, "activity": score.activity, "grading": score.grading, "comment": score.comment[:LONGEST_COMMENT], "submitted_at": score.submitted}
    # The entry comes before the cell and the queue: a worker waits for whoever holds the pairing's row through it (waking.py).
    LedgerEntry.objects.create(pairing_id=placement.pairing_id, placement=placement, learner=learner, via=via, timestamp=score.timestamp, digest=digest, **fields)
    now = timezone.now()
    waits = _waiting(now)
    if not Cell.objects.filter(placement=placement, learner=learner).update(**waits, **interrupted(), since=Coalesce(F("since"), now)):
        Cell.objects.create(pairing_id=placement.pairing_id, placement=placement, learner=learner, **waits, since=now)
    enqueue_relay(placement.pairing_id)


def _waiting(now: datetime) -> dict[str, Any]:
    return {"state": Cell.State.WAITING, "tries": 0, "until": None, "why": "", "reason": "", "remedy": "", "failing_since": None, "changed_at": now}


def digest_of(score: Score) -> str:
    """Return what stands for all that a report says, apart from its learner and time."""
    said = (score.given, score.maximum, score.activity, score.grading, score.comment, score.submitted)
    return hashlib.sha256("\x1f".join("" if each is None else _text(each) for each in said).encode("utf-8", "surrogatepass")).hexdigest()[:40]


def _text(value: Any) -> str:
    return value.isoformat() if isinstance(value, datetime) else (value if isinstance(value, str) else f"{value.normalize():f}")
