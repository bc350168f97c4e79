"""Browsers that are signed in: who, from which platform, since when; and how they end."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.contrib.auth import login, logout, update_session_auth_hash
from django.contrib.sessions.models import Session
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from knox.models import AuthToken

from vennpair.service.connect.models import Platform, SignedInBrowser, User

BACKEND = "django.contrib.auth.backends.ModelBackend"
LONGEST = timedelta(days=14)
LOOK = timedelta(minutes=5)  # a session is written at most so often
BEGUN, SEEN, LANGUAGE = "begun", "seen", "language"


def sign_in(
    request: HttpRequest, user: User, platform: Platform | None = None, language: str = ""
) -> None:
    """Sign a browser in: by a launch from ``platform``, in the launch's ``language`` (a BCP 47 tag,
    empty where it says none), or by a password.
    """
    now = timezone.now()
    login(request, user, backend=BACKEND)
    request.session[LANGUAGE] = language[:35]
    request.session[BEGUN] = request.session[SEEN] = now.isoformat()
    request.session.save()
    facts = {"user": user, "platform": platform, "begun_at": now}
    SignedInBrowser.objects.update_or_create(
        session_key=request.session.session_key, defaults=facts
    )


def launch_language(request: HttpRequest) -> str:
    """Return the language of the launch by which a browser was signed in, empty where none was
    said.
    """
    return str(request.session.get(LANGUAGE, ""))


def renew(request: HttpRequest, user: User) -> str:
    """Let this browser's session outlive a change of the password; return its new key."""
    before = request.session.session_key
    update_session_auth_hash(request, user)
    request.session.save()
    after = str(request.session.session_key)
    found = SignedInBrowser.objects.filter(session_key=before).first()
    facts = {"user": user, "platform": found.platform if found else None}
    began = found.begun_at if found else timezone.now()
    SignedInBrowser.objects.filter(session_key=before).delete()
    SignedInBrowser.objects.update_or_create(
        session_key=after, defaults=facts | {"begun_at": began}
    )
    return after


def sign_out(request: HttpRequest) -> None:
    """End this browser's session."""
    SignedInBrowser.objects.filter(session_key=request.session.session_key).delete()
    logout(request)


def end_sessions(*, but: str | None = None, **of: Any) -> int:
    """End the sessions ``of`` a user or platform in every browser, one excepted; return how many."""
    with transaction.atomic():
        found = SignedInBrowser.objects.filter(**of).exclude(session_key=but or "")
        keys = list(found.values_list("session_key", flat=True))
        Session.objects.filter(session_key__in=keys).delete()
        SignedInBrowser.objects.filter(session_key__in=keys).delete()
    return len(keys)


def end_tokens(user: User) -> int:
    """Revoke every token of somebody; return how many there were."""
    return int(AuthToken.objects.filter(user=user).delete()[0] > 0)


class SessionLife:
    """Middleware: a session ends when nobody used it for a while, and after two weeks at most."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Handle one request."""
        if request.session.get("_auth_user_id") and _is_over(request, timezone.now()):
            sign_out(request)
        return self.get_response(request)


def _is_over(request: HttpRequest, now: datetime) -> bool:
    """Say whether a session's time is over; note that it is used where it is not."""
    begun, seen = (_moment(request.session.get(name), now) for name in (BEGUN, SEEN))
    idle = timedelta(hours=settings.IDLE_HOURS)
    if now - begun > LONGEST or now - seen > idle:
        return True
    if SEEN not in request.session or now - seen > min(LOOK, idle / 4):
        request.session[SEEN] = now.isoformat()
        request.session.setdefault(BEGUN, now.isoformat())
    return False


def _moment(text: object, otherwise: datetime) -> datetime:
    return datetime.fromisoformat(text) if isinstance(text, str) else otherwise
