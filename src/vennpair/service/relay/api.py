"""How the relay of a pairing stands, and sending again."""

from __future__ import annotations

from typing import Any

from django.db.models import Count
from drf_spectacular.helpers import forced_singular_serializer
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.api.nested import OfPairing
from vennpair.service.relay.actions.send_again import cells_to_send, send_again
from vennpair.service.relay.actions.send_scores import plain_score
from vennpair.service.relay.models import Cell, LedgerEntry

SHOWN = 100


class CellSerializer(serializers.ModelSerializer[Cell]):
    """One learner's score in one column, on its way."""

    item = serializers.CharField(source="placement.title")
    learner = serializers.CharField(source="learner.name")
    sent = serializers.SerializerMethodField()

    class Meta:
        model = Cell
        fields = read_only_fields = ["item", "learner", "state", "reason", "remedy", "sent", "sent_at", "next_try", "changed_at"]

    def get_sent(self, cell: Cell) -> str | None:
        """Return what the platform last accepted."""
        return plain_score(cell.sent_given)


class RelaySerializer(serializers.Serializer[Any]):
    """The relay of a pairing: on or off, counts by state, reports received, the newest cells."""

    on = serializers.BooleanField()
    state = serializers.CharField()
    counts = serializers.DictField(child=serializers.IntegerField())
    received = serializers.IntegerField()
    cells = CellSerializer(many=True)


class SendAgainSerializer(serializers.Serializer[Any]):
    """``force`` also sends what the platform has accepted already."""

    force = serializers.BooleanField(default=False)
    dry_run = serializers.BooleanField(default=False)


class QueuedSerializer(serializers.Serializer[Any]):
    """How many scores were queued, or would be."""

    queued = serializers.IntegerField()


class RelayViewset(OfPairing):
    """The relay of a pairing."""

    queryset = Cell.objects.none()
    serializer_class = RelaySerializer
    pagination_class = None

    @extend_schema(responses=forced_singular_serializer(RelaySerializer), operation_id="pairings_relay_retrieve")
    def list(self, request: Request, pairing_pk: str) -> Response:
        """Say how the relay stands."""
        pairing = self.pairing()
        cells = Cell.objects.filter(placement__pairing=pairing)
        counts = dict(cells.order_by().values_list("state").annotate(count=Count("pk")))
        facts = {"on": pairing.relay_on, "state": pairing.state, "counts": counts, "received": LedgerEntry.objects.filter(placement__pairing=pairing).count()}
        newest = cells.select_related("placement", "learner").order_by("-changed_at", "-pk")[:SHOWN]
        return Response(RelaySerializer(facts | {"cells": newest}).data)

    @extend_schema(request=SendAgainSerializer, responses={200: QueuedSerializer, 202: QueuedSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Send again what the platform has not accepted."""
        pairing = self.pairing()
        asked = SendAgainSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        if asked.validated_data["dry_run"]:
            return Response({"queued": cells_to_send(pairing, force=asked.validated_data["force"]).count()})
        return Response({"queued": send_again(pairing, request.user, force=asked.validated_data["force"])}, status=202)
