"""Give the other side a one-time right to register with us."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta

from django.conf import settings
from django.db import transaction
from django.utils import timezone

from vennpair.service.connect.models import Institution, Invitation, User
from vennpair.service.kernel.audit.trail import record

LIFE = timedelta(days=7)


def digest(secret: str) -> str:
    """Return what is kept of a secret."""
    return hashlib.sha256(secret.encode()).hexdigest()


def invite(institution: Institution, side: str, name: str, actor: User) -> tuple[Invitation, str]:
    """Return an invitation that is good once for a week, and its secret, which is shown
    this once.
    """
    secret = secrets.token_urlsafe(32)
    with transaction.atomic():
        made = Invitation.objects.create(
            digest=digest(secret),
            side=side,
            institution=institution,
            name=name,
            made_by=actor,
            expires=timezone.now() + LIFE,
        )
        record(
            "invitation.made",
            f"A registration link for a {side}{f', {name},' if name else ''} was made.",
            institution=institution,
            actor=actor,
        )
    return made, secret


def platform_link(secret: str) -> str:
    """Return the address that a platform's administrator enters to register us there."""
    return f"{settings.BASE_URL}/lti/register/{secret}"


def claim(secret: str, side: str) -> Invitation | None:
    """Return a good invitation, locked for the caller's transaction.

    None where it is unknown, used or too old.
    """
    rows = Invitation.objects.select_for_update(of=("self",)).select_related("institution")
    return rows.filter(
        digest=digest(secret), side=side, used_at=None, expires__gt=timezone.now()
    ).first()
