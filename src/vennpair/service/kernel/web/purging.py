"""What of kept answers has served its purpose."""

from __future__ import annotations

from datetime import datetime, timedelta

from vennpair.service.kernel.web.models import KeptAnswer

ANSWERS_KEPT = timedelta(days=7)


def delete_kept_answers(now: datetime) -> None:
    """Delete answers that nobody will ask for again."""
    KeptAnswer.objects.filter(made__lt=now - ANSWERS_KEPT).delete()
