"""Placements that are there: listed, taken back, put into another order."""

from __future__ import annotations

from typing import Any, get_args

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.reorder import Orders, Wanted, plan_order, start_order
from vennpair.service.deploy.actions.take_back import (
    Fate,
    Removal,
    plan_taking_back,
    start_taking_back,
)
from vennpair.service.deploy.api.rollouts import WholeRolloutSerializer
from vennpair.service.deploy.api.sheets import PlacementSerializer
from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.pair.queries import require_instructor


class TakeBackSerializer(serializers.Serializer[Any]):
    """Which placements, and what becomes of columns that hold scores."""

    placements = serializers.ListField(child=serializers.UUIDField(), min_length=1, max_length=2000)
    scores = serializers.ChoiceField(["ask", "keep", "export", "remove"], default="ask")
    dry_run = serializers.BooleanField(default=False)


class TakingBackSerializer(serializers.Serializer[Any]):
    """What taking one placement back means; ``column``: none, kept, exported, removed, or asked.

    ``by_hand``: no tool can delete its link, so somebody has to in the shell.
    """

    placement = serializers.CharField(source="placement.pk")
    title = serializers.CharField(source="placement.title")
    scores = serializers.SerializerMethodField()
    column = serializers.ChoiceField(get_args(Fate))
    by_hand = serializers.BooleanField()

    def get_scores(self, removal: Removal) -> int:
        """Return how many scores the column holds."""
        return len(removal.results)


class PlacementViewset(mixins.ListModelMixin, OfPairing):
    """The links that are in the shell."""

    serializer_class = PlacementSerializer
    queryset = Placement.objects.none()
    ordering = ("item__position", "id")

    def in_pairing(self) -> QuerySet[Placement]:
        """Return what is there, or is known to come."""
        return (
            self.pairing().placements.exclude(state=Placement.State.REMOVED).select_related("item")
        )

    @extend_schema(
        request=TakeBackSerializer,
        responses={200: TakingBackSerializer(many=True), 202: WholeRolloutSerializer},
    )
    @action(detail=False, methods=["post"], url_path="take-back", pagination_class=None)
    def take_back(self, request: Request, pairing_pk: str) -> Response:
        """Take placements back; with ``dry_run`` say what that means."""
        pairing = self.pairing()
        require_instructor(self.user, pairing.shell)
        wanted = read(TakeBackSerializer, request)
        if wanted["dry_run"]:
            return Response(
                TakingBackSerializer(
                    plan_taking_back(pairing, wanted["placements"], wanted["scores"]), many=True
                ).data
            )
        return Response(
            WholeRolloutSerializer(
                start_taking_back(pairing, wanted["placements"], wanted["scores"], self.user)
            ).data,
            status=202,
        )


class NewOrderSerializer(serializers.Serializer[Any]):
    """How to order: ``by`` for all folders or one (its id).

    Or ``entries`` of one folder, moved ``after`` another (an id, ``start``, empty: the end).
    """

    by = serializers.ChoiceField(["publisher", "due", "unit"], default="publisher")
    folder = serializers.CharField(allow_blank=True, default="", max_length=255)
    entries = serializers.ListField(
        child=serializers.CharField(max_length=255), default=list, max_length=2000
    )
    after = serializers.CharField(allow_blank=True, default="", max_length=255)
    gradebook = serializers.BooleanField(default=True)
    dry_run = serializers.BooleanField(default=False)


class FolderOrderSerializer(serializers.Serializer[Any]):
    """A folder's entries as they are and as they will be, by title."""

    folder = serializers.CharField()
    now = serializers.ListField(child=serializers.CharField())
    then = serializers.ListField(child=serializers.CharField())


class OrdersSerializer(serializers.Serializer[Any]):
    """What ordering changes."""

    folders = FolderOrderSerializer(many=True)
    columns_now = serializers.ListField(child=serializers.CharField())
    columns_then = serializers.ListField(child=serializers.CharField())


def _named(planned: Orders) -> dict[str, Any]:
    def titles(row: list[str]) -> list[str]:
        return [planned.titles.get(each, "a column of your own") for each in row]

    folders = [
        {
            "folder": planned.titles.get(folder, ""),
            "now": titles(planned.now[folder]),
            "then": titles(row),
        }
        for folder, row in planned.then.items()
    ]
    changed = planned.columns_now != planned.columns_then
    return {
        "folders": folders,
        "columns_now": titles(planned.columns_now) if changed else [],
        "columns_then": titles(planned.columns_then) if changed else [],
    }


class OrderViewset(OfPairing):
    """Another order of what is there: one call, one undo (that of the rollout that it becomes)."""

    serializer_class = OrdersSerializer
    queryset = Placement.objects.none()

    @extend_schema(
        request=NewOrderSerializer, responses={200: OrdersSerializer, 202: WholeRolloutSerializer}
    )
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Plan, and unless ``dry_run`` start."""
        pairing = self.pairing()
        require_instructor(self.user, pairing.shell)
        facts = read(NewOrderSerializer, request)
        wanted = Wanted(
            facts["by"],
            facts["folder"],
            tuple(facts["entries"]),
            facts["after"],
            facts["gradebook"],
        )
        if facts["dry_run"]:
            return Response(OrdersSerializer(_named(plan_order(pairing, wanted))).data)
        return Response(
            WholeRolloutSerializer(start_order(pairing, wanted, self.user)).data, status=202
        )
