"""Make a token for scripts, with scopes and an end."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import transaction
from knox.models import AuthToken

from vennpair.service.connect.models import TokenGrant, User
from vennpair.service.connect.permissions import with_contained
from vennpair.service.kernel.audit.trail import record
from vennpair.service.kernel.errors import Refused


def make_token(
    user: User, asked_with: Any, name: str, scopes: list[str], life: timedelta
) -> tuple[AuthToken, str]:
    """Return the token and its value.

    A token for scripts makes none that lives longer than itself. Raises Refused where it would do
    more than the token that asks for it.
    """
    mine = getattr(asked_with, "grant", None) if isinstance(asked_with, AuthToken) else None
    if mine is not None and not set(scopes) <= with_contained(mine.scopes):
        raise Refused(
            "scope_missing",
            "A token cannot make one that may do more than itself.",
            "Sign in, and make it then.",
            403,
        )
    with transaction.atomic():
        made, value = AuthToken.objects.create(user, expiry=life)
        if mine is not None and asked_with.expiry is not None and asked_with.expiry < made.expiry:
            made.expiry = asked_with.expiry
            made.save(update_fields=["expiry"])
        TokenGrant.objects.create(token=made, name=name, scopes=sorted(set(scopes)))
        if user.institution:
            record(
                "token.made",
                f"A token '{name}' was made; it may {', '.join(sorted(set(scopes)))}.",
                institution=user.institution,
                actor=user,
            )
    return made, str(value)


def end_token(token: AuthToken, user: User) -> None:
    """Revoke a token of one's own."""
    with transaction.atomic():
        grant = getattr(token, "grant", None)
        token.delete()
        if user.institution:
            record(
                "token.ended",
                f"The token '{grant.name if grant else 'sign-in'}' was ended.",
                institution=user.institution,
                actor=user,
            )
