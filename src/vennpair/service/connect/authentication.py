"""How the console is signed in: by its session, with CSRF checked."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from drf_spectacular.authentication import SessionScheme
from drf_spectacular.contrib.knox_auth_token import KnoxTokenScheme
from knox.auth import TokenAuthentication
from knox.models import AuthToken
from rest_framework.authentication import SessionAuthentication
from rest_framework.exceptions import NotAuthenticated
from rest_framework.request import Request

from vennpair.service.connect.models import TokenUse, User

NOTED, MOST_NOTED = timedelta(minutes=10), 10_000
_noted: dict[str, datetime] = {}


class ConsoleSession(SessionAuthentication):
    """Session authentication that answers 401, not 403, where nobody is signed in."""

    def authenticate_header(self, request: Request) -> str:
        """Return the challenge of a 401."""
        return "Session"


class Token(TokenAuthentication):  # type: ignore[misc]
    """A token of the command line or of a script; notes when it was used, to some minutes."""

    def authenticate(self, request: Request) -> Any:
        """Return user and token, None where the request brings none."""
        found = super().authenticate(request)
        if found is not None:
            _note_use(found[1])
        return found

    def _cleanup_token(self, auth_token: AuthToken) -> bool:
        """Delete a token that has expired; say whether it had.

        The library reads all tokens of the account here, with each request, to find expired ones
        among them; a script that signs in each time has thousands. Those are purged (purging.py).
        """
        expired = auth_token.expiry is not None and auth_token.expiry < timezone.now()
        if expired:
            auth_token.delete()
        return expired


def _note_use(token: AuthToken) -> None:
    """Write down that a token is used, by each process once in some minutes."""
    now = timezone.now()
    if (known := _noted.get(token.pk)) and now - known < NOTED:
        return
    if len(_noted) > MOST_NOTED:
        _noted.clear()
    _noted[token.pk] = now
    TokenUse.objects.update_or_create(token=token, defaults={"used_at": now})


class TokenScheme(KnoxTokenScheme):  # type: ignore[no-untyped-call]
    """How the schema describes it."""

    target_class = Token  # type: ignore[assignment]


class ConsoleSessionScheme(SessionScheme):  # type: ignore[no-untyped-call]
    """How the schema describes it."""

    target_class = ConsoleSession  # type: ignore[assignment]
    name = "consoleSession"


def signed_in(request: HttpRequest | Request) -> User:
    """Return who asks. Raises NotAuthenticated where that is nobody."""
    if not isinstance(request.user, User):
        raise NotAuthenticated
    return request.user
