"""What of pickings and exported columns has served its purpose."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.conf import settings

from vennpair.service.deploy.models import ColumnExport, Picking
from vennpair.service.kernel.purging import REMEMBERED, spent


def delete_spent_exports(now: datetime) -> dict[str, int]:
    """Delete pickings that were not answered, and exports: scores are not kept for ever."""
    pickings = spent(Picking.objects.filter(made_at__lt=now - REMEMBERED))
    kept = timedelta(days=settings.PACKAGES_KEPT_DAYS)
    exports = spent(ColumnExport.objects.filter(made_at__lt=now - kept))
    return {"pickings": pickings, "exported columns": exports}
