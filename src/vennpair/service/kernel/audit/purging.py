"""What of notices and of the trail has served its purpose."""

from __future__ import annotations

from datetime import datetime

from vennpair.service.kernel.audit.models import Event, Notice
from vennpair.service.kernel.audit.sealing import shorten
from vennpair.service.kernel.purging import before, spent


def delete_old_notices(now: datetime) -> dict[str, int]:
    """Delete notices that are old, read or not."""
    since = before(now, "NOTICES")
    return {"notices": spent(Notice.objects.filter(at__lt=since)) if since else 0}


def delete_old_events(now: datetime) -> dict[str, int]:
    """Shorten the trail of each institution, where an operator set that it ends at all."""
    since = before(now, "ACTIVITY")
    if since is None:
        return {}
    old = Event.objects.filter(at__lt=since, number__isnull=False)
    institutions = old.order_by().values_list("institution", flat=True).distinct()
    return {"events of the trail": sum(shorten(each, since) for each in list(institutions))}
