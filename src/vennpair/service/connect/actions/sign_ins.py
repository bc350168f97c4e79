"""What is recorded of signing in, and what ends when a password changes."""

from __future__ import annotations

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import CommandError
from django.db import transaction
from django.http import HttpRequest

from vennpair.service.connect.models import User
from vennpair.service.connect.sessions import end_sessions, end_tokens, renew
from vennpair.service.kernel.audit.trail import record


def note_sign_in(user: User) -> None:
    """Record that somebody signed in with a password."""
    if user.institution:
        words = f"{user.shown_name} signed in with a password."
        record("sign_in", words, institution=user.institution, actor=user)


def note_refused_sign_in(username: str, address: str) -> None:
    """Record a wrong password of somebody who is known here."""
    user = User.objects.filter(username__iexact=username).select_related("institution").first()
    if user is not None and user.institution:
        record(
            "sign_in.refused",
            f"A wrong password was given for {user.shown_name}.",
            institution=user.institution,
            after={"address": address},
        )


def check_password_rules(password: str, user: User) -> None:
    """Hold a password to the console's rules. Raises CommandError naming what is wrong."""
    try:
        validate_password(password, user)
    except ValidationError as error:
        raise CommandError(f"The password cannot be used: {' '.join(error.messages)}") from error


def change_password(user: User, password: str, request: HttpRequest | None = None) -> None:
    """Set a password; every other session and all tokens end. The caller has checked it."""
    with transaction.atomic():
        user.set_password(password)
        user.save(update_fields=["password"])
        end_sessions(user=user, but=renew(request, user) if request is not None else None)
        end_tokens(user)
        if user.institution:
            words = f"The password of {user.shown_name} was changed; their tokens have ended."
            record("password.changed", words, institution=user.institution, actor=user)


def sign_out_everywhere(user: User) -> None:
    """End all sessions and tokens of somebody."""
    with transaction.atomic():
        end_sessions(user=user)
        end_tokens(user)
        if user.institution:
            words = f"{user.shown_name} signed out everywhere."
            record("sign_out.everywhere", words, institution=user.institution, actor=user)
