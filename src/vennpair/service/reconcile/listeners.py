"""What comparing answers where a lower app asks."""

from __future__ import annotations

from datetime import datetime

from django.db.models import Exists, OuterRef, Subquery
from django.db.models.expressions import Combinable

from vennpair.service.kernel.purging import delete_spent
from vennpair.service.operations.kinds import register
from vennpair.service.pair.hooks import last_comparison
from vennpair.service.pair.models import Pairing
from vennpair.service.reconcile.models import Comparison
from vennpair.service.reconcile.purging import delete_spent_findings
from vennpair.service.reconcile.settlement_kind import SettlementKind
from vennpair.service.relay.hooks import unreported_scores
from vennpair.service.relay.models import Cell, LedgerEntry


def listen() -> None:
    """Listen to what concerns comparisons."""
    delete_spent.listen(delete_spent_findings)
    register(SettlementKind())
    last_comparison.listen(_last_summary)
    unreported_scores.listen(_unreported)


def _last_summary() -> Combinable:
    """Return the summary of the newest comparison of an outer query's pairing."""
    done = Comparison.objects.done().filter(pairing=OuterRef("pk"))
    return Subquery(done.values("summary")[:1])


def _unreported(pairing: Pairing) -> tuple[int, datetime | None]:
    """Return how many scores the last comparison found of which the publisher has sent no report to
    this day, and when it was.

    The ledger alone cannot know them. What is held, refused or on its way was reported and is
    counted where it is.
    """
    last = Comparison.objects.done().filter(pairing=pairing).only("at").first()
    if last is None or last.at is None:
        return 0, None
    where = {"placement": OuterRef("placement"), "learner": OuterRef("person")}
    standing = Cell.objects.filter(**where).exclude(
        state__in=[Cell.State.EMPTY, Cell.State.ACCEPTED]
    )
    later = LedgerEntry.objects.filter(**where, received_at__gt=last.at)
    missing = last.findings.filter(scope="cell", kind__in=["unsent", "behind"], kept=None)
    return missing.exclude(Exists(standing) | Exists(later)).count(), last.at
