"""Change what somebody wishes: how often they are told what the night found, and their language."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.connect.models import User
from vennpair.service.kernel.audit.trail import record


def change_digest(user: User, wish: str) -> None:
    """Set ``daily``, ``weekly`` or ``never``."""
    with transaction.atomic():
        before, user.digest = user.digest, wish
        user.save(update_fields=["digest"])
        record(
            "digest.changed",
            f"{user.shown_name} wants the digest {wish}.",
            institution=user.institution,
            actor=user,
            before=before,
            after=wish,
        )


def change_language(user: User, language: str) -> None:
    """Set the language that the console speaks to somebody, as a BCP 47 tag; empty: the course's."""
    user.language = language
    user.save(update_fields=["language"])
