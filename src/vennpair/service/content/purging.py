"""What of packages has served its purpose."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.conf import settings

from vennpair.service.content.models import Package
from vennpair.service.content.storage import delete_orphans
from vennpair.service.kernel.purging import spent

UPLOADS_KEPT = timedelta(days=2)  # within which a broken upload can go on


def delete_spent_packages(now: datetime) -> dict[str, int]:
    """Delete packages whose time is over, and uploads that nobody went on with."""
    kept = timedelta(days=settings.PACKAGES_KEPT_DAYS)
    packages = spent(Package.objects.filter(used_at__lt=now - kept))
    abandoned = Package.objects.filter(complete=False, imports=None)
    uploads = spent(abandoned.filter(used_at__lt=now - UPLOADS_KEPT))
    orphans = delete_orphans(now)
    return {"unused packages": packages, "broken uploads": uploads, "files of them": orphans}
