"""How the console is signed in: by its session, with CSRF checked."""

from __future__ import annotations

from drf_spectacular.authentication import SessionScheme
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request


class ConsoleSession(SessionAuthentication):
    """Session authentication that answers 401, not 403, where nobody is signed in."""

    def authenticate_header(self, request: Request) -> str:
        """Return the challenge of a 401."""
        return "Session"


class ConsoleSessionScheme(SessionScheme):
    """How the schema describes it."""

    target_class = ConsoleSession
    name = "consoleSession"
