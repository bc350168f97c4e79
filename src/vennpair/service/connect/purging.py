"""What of connections and people has served its purpose."""

from __future__ import annotations

from datetime import datetime

from django.contrib.sessions.models import Session
from django.db.models import Exists, OuterRef
from knox.models import AuthToken

from vennpair.service.connect.models import PasskeyChallenge, SignedInBrowser, WrongPassword
from vennpair.service.kernel.purging import REMEMBERED, spent


def delete_spent_sign_ins(now: datetime) -> dict[str, int]:
    """Delete sessions that have ended, wrong passwords that count no longer, and challenges that
    nobody answered.
    """
    PasskeyChallenge.objects.filter(made_at__lt=now - PasskeyChallenge.GOOD_FOR).delete()
    sessions = spent(Session.objects.filter(expire_date__lt=now))
    tokens = spent(AuthToken.objects.filter(expiry__lt=now))
    SignedInBrowser.objects.exclude(
        Exists(Session.objects.filter(session_key=OuterRef("session_key")))
    ).delete()
    wrong = spent(WrongPassword.objects.filter(last_at__lt=now - REMEMBERED))
    return {"ended sessions": sessions, "ended tokens": tokens, "wrong passwords": wrong}
