"""Who may call what: the scopes of the token that a request came with, and who administers."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from knox.models import AuthToken
from rest_framework.permissions import SAFE_METHODS, BasePermission
from rest_framework.request import Request

from vennpair.service.kernel.errors import Refused

SCOPES = {
    "read": "look at shells, pairings, scores and comparisons",
    "compare": "compare, which changes nothing on either side",
    "change": "pair, import, deploy, send and compare, as your role allows",
    "connect": "administer connections and people, if you are an administrator",
}


def with_contained(scopes: Iterable[str]) -> set[str]:
    """Return scopes with what each contains: who may change may compare."""
    return {*scopes, *(["compare"] if "change" in scopes else [])}


class TokenScope(BasePermission):
    """A token made for scripts may only do what it was made for.

    A sign-in may all that its owner may.
    """

    def has_permission(self, request: Request, view: Any) -> bool:
        """Compare the scope that the view needs with the token's."""
        grant = (
            getattr(request.auth, "grant", None) if isinstance(request.auth, AuthToken) else None
        )
        needed = _needed(request, view)
        if grant is not None and needed not in with_contained(grant.scopes):
            raise Refused(
                "scope_missing",
                f"This token may not do that: it lacks the scope '{needed}' ({SCOPES[needed]}).",
                "Use a token that has it; make one under your name in the console.",
                403,
            )
        return True


def _needed(request: Request, view: Any) -> str:
    """Return the scope that a request needs; a view says where it is not ``change``."""
    if request.method in SAFE_METHODS:
        return "read"
    if getattr(view, "action", "") in getattr(view, "compares", ()):
        return "compare"
    return str(getattr(view, "token_scope", "change"))


class Administrator(BasePermission):
    """The institution's administrators only."""

    def has_permission(self, request: Request, view: Any) -> bool:
        """Say whether the user administers."""
        if request.user.is_staff and request.user.institution_id:
            return True
        raise Refused(
            "not_allowed",
            "Only an administrator of the institution may do this.",
            "Ask your administrator.",
            403,
        )
