"""How the console is signed in: by its session, with CSRF checked."""

from __future__ import annotations

from django.http import HttpRequest
from drf_spectacular.authentication import SessionScheme
from rest_framework.authentication import SessionAuthentication
from rest_framework.exceptions import NotAuthenticated
from rest_framework.request import Request

from vennpair.service.connect.models import User


class ConsoleSession(SessionAuthentication):
    """Session authentication that answers 401, not 403, where nobody is signed in."""

    def authenticate_header(self, request: Request) -> str:
        """Return the challenge of a 401."""
        return "Session"


class ConsoleSessionScheme(SessionScheme):  # type: ignore[no-untyped-call]
    """How the schema describes it."""

    target_class = ConsoleSession  # type: ignore[assignment]
    name = "consoleSession"


def signed_in(request: HttpRequest | Request) -> User:
    """Return who asks. Raises NotAuthenticated where that is nobody."""
    if not isinstance(request.user, User):
        raise NotAuthenticated
    return request.user
