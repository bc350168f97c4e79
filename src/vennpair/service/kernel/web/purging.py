"""What of kept answers has served its purpose."""

from __future__ import annotations

from datetime import datetime

from vennpair.service.kernel.purging import before, spent
from vennpair.service.kernel.web.models import KeptAnswer


def delete_kept_answers(now: datetime) -> dict[str, int]:
    """Delete answers that nobody will ask for again."""
    since = before(now, "ANSWERS")
    return {"kept answers": spent(KeptAnswer.objects.filter(made__lt=since)) if since else 0}
