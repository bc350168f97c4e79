"""Take a score that a publisher reports: into the ledger, and on its way, in one transaction."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.deploy.models import Placement
from vennpair.service.pair.models import Learner
from vennpair.service.relay.actions.send_scores import enqueue_relay
from vennpair.service.relay.models import Cell, LedgerEntry
from vennpair.standards.lti.grades import Score


def receive_score(placement: Placement, learner: Learner, score: Score) -> LedgerEntry:
    """Store a report; the very same report again changes nothing."""
    fields = {"given": score.given, "maximum": score.maximum, "activity": score.activity, "grading": score.grading, "comment": score.comment[:5000]}
    with transaction.atomic():
        cell, _ = Cell.objects.select_for_update().get_or_create(placement=placement, learner=learner)
        known = LedgerEntry.objects.filter(placement=placement, learner=learner, timestamp=score.timestamp, **fields).first()
        if known:
            return known
        entry = LedgerEntry.objects.create(placement=placement, learner=learner, timestamp=score.timestamp, **fields)
        cell.state, cell.tries, cell.next_try, cell.reason, cell.remedy = Cell.State.WAITING, 0, None, "", ""
        cell.save()
        enqueue_relay(placement.pairing)
    return entry
