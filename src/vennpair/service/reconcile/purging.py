"""What of comparisons has served its purpose."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.conf import settings
from django.db.models import OuterRef, Subquery

from vennpair.service.reconcile.models import Comparison, Finding

FINDINGS_KEPT = timedelta(days=200)  # a term and what follows it; the counts stay, for the trend


def delete_spent_findings(now: datetime) -> None:
    """Delete the findings of old comparisons, never of a pairing's newest, and comparisons with
    files altogether.
    """
    Comparison.objects.exclude(given={}).filter(
        job__made_at__lt=now - timedelta(days=settings.PACKAGES_KEPT_DAYS)
    ).delete()
    newest = Comparison.objects.done().filter(pairing=OuterRef("pairing")).values("pk")[:1]
    spent = (
        Comparison.objects.done()
        .filter(at__lt=now - FINDINGS_KEPT)
        .exclude(pk=Subquery(newest))
        .exclude(matrix={})
    )
    Finding.objects.filter(comparison__in=spent.values("pk")).delete()
    spent.order_by().update(matrix={}, shares=[])
