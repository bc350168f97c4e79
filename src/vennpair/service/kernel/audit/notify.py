"""Telling one person that something is ready or needs them: in the console, and by mail where that
is configured.
"""

from __future__ import annotations

from typing import Any

from django.conf import settings

from vennpair.service.kernel.audit.models import Notice
from vennpair.service.kernel.jobs.queue import SEND_NOTICE, enqueue


def notify(user: Any, sentence: str, link: str = "", pairing: Any = None, body: str = "") -> Notice:
    """Leave a notice; called by actions, inside their transaction."""
    made = Notice.objects.create(
        user=user, sentence=sentence[:400], link=link, pairing=pairing, body=body
    )
    if settings.MAIL_FROM and user.email:
        enqueue(SEND_NOTICE, notice_id=str(made.pk))
    return made
