"""What of pickings and exported columns has served its purpose."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.conf import settings

from vennpair.service.deploy.models import ColumnExport, Picking
from vennpair.service.kernel.purging import REMEMBERED


def delete_spent_exports(now: datetime) -> None:
    """Delete pickings that were not answered, and exports: scores are not kept for ever."""
    Picking.objects.filter(made_at__lt=now - REMEMBERED).delete()
    kept = timedelta(days=settings.PACKAGES_KEPT_DAYS)
    ColumnExport.objects.filter(made_at__lt=now - kept).delete()
