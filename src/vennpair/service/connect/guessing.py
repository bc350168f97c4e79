"""Passwords that are guessed: each wrong one of an account from an address makes the next wait
longer, counted in the database, so that every process knows.

Only the pair of account and address waits: nobody can lock somebody else out, and others behind one
address sign in as ever. An address that tries many accounts waits automatically, too.
"""

from __future__ import annotations

import hashlib
from datetime import datetime, timedelta

from django.conf import settings
from django.db.models import F
from django.http import HttpRequest
from django.utils import timezone

from vennpair.service.connect.models import WrongPassword

FREE = 5  # wrong ones of one account from one address before anything waits
FREE_OF_ADDRESS = 50  # of all accounts together
LONGEST = timedelta(minutes=15)
FORGOTTEN = timedelta(hours=1)


def seconds_to_wait(request: HttpRequest, username: str) -> int:
    """Return for how long this address may not try this account, 0 where it may."""
    now = timezone.now()
    waits = (
        (each.until - now).total_seconds()
        for each in WrongPassword.objects.filter(key__in=_keys(request, username))
        if each.until and each.until > now
    )
    return int(max(waits, default=-1) + 1)


def note_wrong(request: HttpRequest, username: str) -> None:
    """Count a wrong password."""
    now = timezone.now()
    for key, free in zip(_keys(request, username), (FREE, FREE_OF_ADDRESS), strict=True):
        WrongPassword.objects.get_or_create(key=key, defaults={"last_at": now})
        WrongPassword.objects.filter(key=key, last_at__lt=now - FORGOTTEN).update(count=0)
        WrongPassword.objects.filter(key=key).update(count=F("count") + 1, last_at=now)
        count = WrongPassword.objects.get(key=key).count
        WrongPassword.objects.filter(key=key).update(until=_until(now, count - free))


def forget_wrong(request: HttpRequest, username: str) -> None:
    """Forget the wrong ones of an account from an address, after a right one."""
    WrongPassword.objects.filter(key=_keys(request, username)[0]).delete()


def address_of(request: HttpRequest) -> str:
    """Return where a request comes from; what a proxy says of it counts only from as many proxies
    as the operator named (``VENNPAIR_PROXIES``), so that nobody makes it up.
    """
    named = [part.strip() for part in request.headers.get("X-Forwarded-For", "").split(",")]
    if settings.PROXIES and len(named) >= settings.PROXIES and named[-settings.PROXIES]:
        return str(named[-settings.PROXIES])
    return str(request.META.get("REMOTE_ADDR", ""))


def _until(now: datetime, over: int) -> datetime | None:
    return now + min(timedelta(seconds=2.0 ** min(over, 20)), LONGEST) if over > 0 else None


def _keys(request: HttpRequest, username: str) -> tuple[str, str]:
    where = address_of(request)
    return _digest(f"{where}\n{username.strip().casefold()}"), _digest(f"{where}\n\n")


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()
