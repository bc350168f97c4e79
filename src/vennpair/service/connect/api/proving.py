"""A second factor given in a request: a code, or what a passkey answered."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers
from rest_framework.exceptions import Throttled
from rest_framework.request import Request

from vennpair.service.connect import passkeys, second_factor
from vennpair.service.connect.guessing import note_wrong, seconds_to_wait
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.web.reading import read


class ProofSerializer(serializers.Serializer[Any]):
    """A code of the app, a recovery code, or the answer of a passkey to a challenge of ours."""

    code = serializers.CharField(max_length=40, default="", allow_blank=True)
    passkey = serializers.DictField(
        required=False,
        help_text="an authentication response as a browser gives it (Web Authentication 5.1.8)",
    )


def proven(user: User, asked: dict[str, Any]) -> bool:
    """Say whether what was asked with proves the second factor; uses it up."""
    answer = asked.get("passkey")
    return passkeys.proves(user, answer) if answer else second_factor.accepts(user, asked["code"])


def require_proof(request: Request, user: User) -> None:
    """Raise Throttled after too many wrong ones, Refused where the request proves nothing."""
    require_patience(request, user)
    if not proven(user, read(ProofSerializer, request)):
        raise wrong_code(request, user)


def require_patience(request: Request, user: User) -> None:
    """Raise Throttled where too many were wrong lately."""
    if wait := seconds_to_wait(request._request, user.username):
        raise Throttled(wait)


def wrong_code(request: Request, user: User) -> Refused:
    """Note a wrong one; return what to raise."""
    note_wrong(request._request, user.username)
    return Refused(
        "wrong_code",
        "The code is not right, or was used already.",
        "Give the one that the app shows now; its clock must be right.",
        422,
    )
