"""What of connections and people has served its purpose."""

from __future__ import annotations

from datetime import datetime

from django.contrib.sessions.models import Session
from django.db.models import Exists, OuterRef

from vennpair.service.connect.models import SignedInBrowser, WrongPassword
from vennpair.service.kernel.purging import REMEMBERED


def delete_spent_sign_ins(now: datetime) -> None:
    """Delete sessions that have ended, and wrong passwords that count no longer."""
    Session.objects.filter(expire_date__lt=now).delete()
    SignedInBrowser.objects.exclude(
        Exists(Session.objects.filter(session_key=OuterRef("session_key")))
    ).delete()
    WrongPassword.objects.filter(last_at__lt=now - REMEMBERED).delete()
