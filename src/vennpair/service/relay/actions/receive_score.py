"""Take a score that a publisher reports: into the ledger, and on its way, in one transaction."""

from __future__ import annotations

import hashlib
from datetime import datetime
from typing import Any

from django.db import connection, transaction
from django.utils import timezone

from vennpair.service.content.models import Placement
from vennpair.service.kernel.metrics import RECEIVED
from vennpair.service.pair.models import Learner
from vennpair.service.relay.models import LedgerEntry
from vennpair.service.relay.scheduling import enqueue_relay
from vennpair.standards.lti.grades import Score

LONGEST_COMMENT = 5000
# One statement: the pairing's row is held (scheduling.py), then the entry unless it is known, and
# with a new one the cell, there or not. Through the ORM it took three and an error for each repeat,
# and accepting a score cost half as much again (bench.relay).
_STORE = """
WITH held AS (SELECT id FROM pair_pairing WHERE id = %(pairing)s FOR KEY SHARE), entry AS (
  INSERT INTO relay_ledgerentry (
    pairing_id, placement_id, learner_id, via, timestamp, given, maximum,
    activity, grading, comment, submitted_at, digest, received_at
  )
  SELECT
    held.id, %(placement)s, %(learner)s, %(via)s, %(timestamp)s, %(given)s, %(maximum)s,
    %(activity)s, %(grading)s, %(comment)s, %(submitted)s, %(digest)s, %(now)s
  FROM held
  ON CONFLICT (placement_id, learner_id, timestamp, digest) DO NOTHING RETURNING id
)
INSERT INTO relay_cell AS cell (
  pairing_id, placement_id, learner_id, state, why, reason, remedy,
  tries, again, revision, in_doubt, status_sent, since, changed_at
)
SELECT
  %(pairing)s, %(placement)s, %(learner)s, 'waiting', '', '', '',
  0, '', 1, false, '', %(now)s, %(now)s
FROM entry
ON CONFLICT (placement_id, learner_id) DO UPDATE SET
  state = 'waiting', why = '', reason = '', remedy = '', until = NULL, tries = 0,
  failing_since = NULL, changed_at = %(now)s, revision = cell.revision + 1,
  in_doubt = cell.in_doubt OR cell.state = 'sending', since = COALESCE(cell.since, %(now)s)
RETURNING cell.id
"""


def receive_score(
    placement: Placement, learner: Learner, score: Score, via: str = LedgerEntry.Via.PUSH
) -> bool:
    """Store a report; the very same report again changes nothing. Return whether it is new."""
    fields: dict[str, Any] = {
        "pairing": placement.pairing_id,
        "placement": placement.pk,
        "learner": learner.pk,
        "via": str(via),
        "timestamp": score.timestamp,
        "given": score.given,
        "maximum": score.maximum,
        "activity": score.activity,
        "grading": score.grading,
        "comment": (
            score.comment[:LONGEST_COMMENT].replace("\x00", "")
        ),  # PostgreSQL keeps no such character
        "submitted": score.submitted,
        "digest": digest_of(score),
        "now": timezone.now(),
    }
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute(_STORE, fields)
            new = cursor.fetchone() is not None
        # the entry comes before the queue: a worker waits for whoever holds the pairing's row
        # through it (scheduling.py)
        if new:
            RECEIVED.labels(str(via)).inc()
            enqueue_relay(placement.pairing_id)
    return new


def digest_of(score: Score) -> str:
    """Return what stands for all that a report says, apart from its learner and time."""
    said = (
        score.given,
        score.maximum,
        score.activity,
        score.grading,
        score.comment,
        score.submitted,
    )
    return hashlib.sha256(
        "\x1f".join("" if each is None else _text(each) for each in said).encode(
            "utf-8", "surrogatepass"
        )
    ).hexdigest()[:40]


def _text(value: Any) -> str:
    return (
        value.isoformat()
        if isinstance(value, datetime)
        else (value if isinstance(value, str) else f"{value.normalize():f}")
    )
