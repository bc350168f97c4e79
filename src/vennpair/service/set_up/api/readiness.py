"""Readiness of a pairing."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.pair.models import Pairing
from vennpair.service.set_up.actions.check_readiness import check_readiness


class CheckSerializer(serializers.Serializer[Any]):
    """One readiness check."""

    code = serializers.CharField()
    state = serializers.ChoiceField(["ok", "warn", "fail"])
    message = serializers.CharField()
    remedy = serializers.CharField()


class ReadinessViewset(OfPairing):
    """What a pairing needs before its scores go."""

    serializer_class = CheckSerializer
    queryset = Pairing.objects.none()
    pagination_class = None

    @extend_schema(responses=CheckSerializer(many=True))
    def list(self, request: Request, pairing_pk: str) -> Response:
        """Check what the pairing needs, now."""
        found = check_readiness(self.pairing(), self.user)
        return Response(CheckSerializer(found, many=True).data)
