"""One's own authenticator app: begun, confirmed; and the whole second factor turned off."""

from __future__ import annotations

import io
from typing import Any

import segno
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect import second_factor
from vennpair.service.connect.api.base import OnlyInBrowser
from vennpair.service.connect.api.proving import (
    ProofSerializer,
    require_patience,
    require_proof,
    wrong_code,
)
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.web.reading import read


class NewFactorSerializer(serializers.Serializer[Any]):
    """A key for an authenticator app, shown this once: as text, and as a picture (SVG)."""

    key = serializers.CharField()
    picture = serializers.CharField()


class CodeSerializer(serializers.Serializer[Any]):
    """A code of the app."""

    code = serializers.CharField(max_length=40)


class RecoverySerializer(serializers.Serializer[Any]):
    """Recovery codes, each good once instead of one of the app; shown this once."""

    recovery = serializers.ListField(child=serializers.CharField())


class SecondFactorView(OnlyInBrowser):
    """A second factor for signing in with a password."""

    @extend_schema(request=None, responses=NewFactorSerializer)
    def post(self, request: Request) -> Response:
        """Make a key; it counts once a code has confirmed it."""
        if second_factor.has_app(self.user):
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
        require_patience(request, self.user)
        codes = second_factor.confirm(self.user, str(read(CodeSerializer, request)["code"]))
        if codes is None:
            raise wrong_code(request, self.user)
        return Response(RecoverySerializer({"recovery": codes}).data)

    @extend_schema(request=ProofSerializer, responses={204: None})
    def delete(self, request: Request) -> Response:
        """Turn it off, with a code or a passkey: the app, the passkeys and the recovery codes."""
        require_proof(request, self.user)
        second_factor.turn_off(self.user, self.user)
        return Response(status=204)
