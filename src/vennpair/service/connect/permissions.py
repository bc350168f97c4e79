"""Who may call what: the scopes of the token that a request came with, and who administers."""

from __future__ import annotations

from typing import Any

from knox.models import AuthToken
from rest_framework.permissions import SAFE_METHODS, BasePermission
from rest_framework.request import Request

from vennpair.service.kernel.errors import Refused

SCOPES = {
    "read": "look at shells, pairings, scores and comparisons",
    "change": "pair, import, deploy, send and compare, as your role allows",
    "connect": "administer connections and people, if you are an administrator",
}


class TokenScope(BasePermission):
    """A token made for scripts may only do what it was made for.

    A sign-in may all that its owner may.
    """

    def has_permission(self, request: Request, view: Any) -> bool:
        """Compare the scope that the view needs with the token's."""
        grant = (
            getattr(request.auth, "grant", None) if isinstance(request.auth, AuthToken) else None
        )
        needed = (
            "read" if request.method in SAFE_METHODS else getattr(view, "token_scope", "change")
        )
        if grant is not None and needed not in grant.scopes:
            raise Refused(
                "scope_missing",
                f"This token may not do that: it lacks the scope '{needed}' ({SCOPES[needed]}).",
                f"Make a token with it: vennpair token new --scope {needed}",
                403,
            )
        return True


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
