"""What of connections and people has served its purpose."""

from __future__ import annotations

from datetime import datetime

from django.contrib.sessions.models import Session
from django.db.models import Exists, OuterRef

from vennpair.service.connect.models import PasskeyChallenge, SignedInBrowser, WrongPassword
from vennpair.service.connect.passkeys import GOOD_FOR
from vennpair.service.kernel.purging import REMEMBERED


def delete_spent_sign_ins(now: datetime) -> None:
    """Delete sessions that have ended, wrong passwords that count no longer, and challenges that
    nobody answered.
    """
    PasskeyChallenge.objects.filter(made_at__lt=now - GOOD_FOR).delete()
    Session.objects.filter(expire_date__lt=now).delete()
    SignedInBrowser.objects.exclude(
        Exists(Session.objects.filter(session_key=OuterRef("session_key")))
    ).delete()
    WrongPassword.objects.filter(last_at__lt=now - REMEMBERED).delete()
