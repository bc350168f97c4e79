"""One's own second factor: begun, confirmed, turned off."""

from __future__ import annotations

import io
from typing import Any

import segno
from drf_spectacular.utils import extend_schema
from knox.models import AuthToken
from rest_framework import serializers
from rest_framework.exceptions import Throttled
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect import second_factor
from vennpair.service.connect.api.base import SignedIn
from vennpair.service.connect.guessing import note_wrong, seconds_to_wait
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.web.reading import read


class NewFactorSerializer(serializers.Serializer[Any]):
    """A key for an authenticator app, shown this once: as text, and as a picture (SVG)."""

    key = serializers.CharField()
    picture = serializers.CharField()


class CodeSerializer(serializers.Serializer[Any]):
    """A code of the app, or a recovery code."""

    code = serializers.CharField(max_length=40)


class RecoverySerializer(serializers.Serializer[Any]):
    """Recovery codes, each good once instead of one of the app; shown this once."""

    recovery = serializers.ListField(child=serializers.CharField())


class SecondFactorView(SignedIn):
    """A second factor for signing in with a password. Only in a browser, never by a token."""

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        """Refuse tokens."""
        super().initial(request, *args, **kwargs)
        if isinstance(request.auth, AuthToken):
            raise Refused(
                "not_allowed",
                "A token cannot change how its owner signs in.",
                "Open Venn Pair from your shell, or sign in to the console, and do it there.",
                403,
            )

    @extend_schema(request=None, responses=NewFactorSerializer)
    def post(self, request: Request) -> Response:
        """Make a key; it counts once a code has confirmed it."""
        if second_factor.is_on(self.user):
            raise Refused(
                "on_already",
                "Signing in needs a code already.",
                "Turn it off first, with a code, then begin again.",
                409,
            )
        key = second_factor.begin(self.user)
        target = io.BytesIO()
        segno.make(second_factor.address_of(self.user, key)).save(
            target, kind="svg", scale=4, xmldecl=False, svgns=True, title="Key for the app"
        )
        return Response(
            NewFactorSerializer({"key": key, "picture": target.getvalue().decode()}).data
        )

    @extend_schema(request=CodeSerializer, responses=RecoverySerializer)
    def put(self, request: Request) -> Response:
        """Confirm the key by a code that the app shows; give recovery codes."""
        codes = second_factor.confirm(self.user, self._code(request))
        if codes is None:
            raise self._wrong(request)
        return Response(RecoverySerializer({"recovery": codes}).data)

    @extend_schema(request=CodeSerializer, responses={204: None})
    def delete(self, request: Request) -> Response:
        """Turn it off, with a code."""
        if not second_factor.accepts(self.user, self._code(request)):
            raise self._wrong(request)
        second_factor.turn_off(self.user, self.user)
        return Response(status=204)

    def _code(self, request: Request) -> str:
        if wait := seconds_to_wait(request._request, self.user.username):
            raise Throttled(wait)
        return str(read(CodeSerializer, request)["code"])

    def _wrong(self, request: Request) -> Refused:
        note_wrong(request._request, self.user.username)
        return Refused(
            "wrong_code",
            "The code is not right, or was used already.",
            "Give the one that the app shows now; its clock must be right.",
            422,
        )
