"""What of comparisons has served its purpose."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.conf import settings
from django.db.models import OuterRef, Subquery

from vennpair.service.kernel.purging import before, spent
from vennpair.service.reconcile.models import Comparison, Finding


def delete_spent_findings(now: datetime) -> dict[str, int]:
    """Delete the findings of old comparisons, never of a pairing's newest, and comparisons with
    files altogether.
    """
    files = spent(
        Comparison.objects.exclude(given={}).filter(
            job__made_at__lt=now - timedelta(days=settings.PACKAGES_KEPT_DAYS)
        )
    )
    since = before(now, "FINDINGS")
    if since is None:
        return {"comparisons with files": files}
    newest = Comparison.objects.done().filter(pairing=OuterRef("pairing")).values("pk")[:1]
    old = (
        Comparison.objects.done()
        .filter(at__lt=since)
        .exclude(pk=Subquery(newest))
        .exclude(matrix={})
    )
    findings = spent(Finding.objects.filter(comparison__in=old.values("pk")))
    old.order_by().update(matrix={}, shares=[])
    return {"comparisons with files": files, "old findings": findings}
