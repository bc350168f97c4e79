"""Deep Linking at the console's side: what a platform asks for is answered, and a publisher is
asked.
"""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect.api.base import Viewset
from vennpair.service.deploy.actions.pick_at_publisher import start_asking
from vennpair.service.deploy.actions.pick_content import (
    answer_picking,
    open_pairing,
    plan_answer,
    settings_of,
)
from vennpair.service.deploy.api.sheets import (
    PlanNoticeSerializer,
    RowSerializer,
    SheetSerializer,
    sheet_of,
)
from vennpair.service.deploy.models import Picking
from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.api.nested import OfPairing


class PickingSerializer(serializers.ModelSerializer[Picking]):
    """What a platform asks for and takes back.

    ``pairing`` is null while the shell is not paired.
    """

    pairing = serializers.SerializerMethodField()
    shell = serializers.CharField(source="shell.label")
    platform = serializers.CharField(source="shell.platform.name")
    multiple = serializers.SerializerMethodField()
    columns = serializers.SerializerMethodField()
    types = serializers.SerializerMethodField()

    class Meta:
        model = Picking
        fields = read_only_fields = [
            "id",
            "pairing",
            "shell",
            "platform",
            "multiple",
            "columns",
            "types",
            "answered_at",
        ]

    def get_pairing(self, picking: Picking) -> str | None:
        """Return the pairing to pick from."""
        found = open_pairing(picking)
        return str(found.pk) if found else None

    def get_multiple(self, picking: Picking) -> bool:
        """Say whether several items may be answered."""
        return settings_of(picking).accept_multiple

    def get_columns(self, picking: Picking) -> bool:
        """Say whether columns may go along."""
        return settings_of(picking).accept_line_item

    def get_types(self, picking: Picking) -> list[str]:
        """Return the types that are taken."""
        return list(settings_of(picking).accept_types)


class NewAnswerSerializer(SheetSerializer):
    """Which items, and how."""

    items = serializers.ListField(child=serializers.UUIDField(), min_length=1, max_length=1000)
    dry_run = serializers.BooleanField(default=False)


class AnswerPlanSerializer(serializers.Serializer[Any]):
    """What would be answered."""

    rows = RowSerializer(many=True)
    columns = serializers.IntegerField()
    notices = PlanNoticeSerializer(many=True)


class AnswerSerializer(serializers.Serializer[Any]):
    """What the browser posts to the platform: ``JWT`` to ``url``."""

    url = serializers.CharField()
    token = serializers.CharField()


class PickingViewset(mixins.RetrieveModelMixin, Viewset):
    """What a platform asked somebody to pick."""

    serializer_class = PickingSerializer
    queryset = Picking.objects.none()

    def get_queryset(self) -> QuerySet[Picking]:
        """Return one's own."""
        return Picking.objects.filter(user=self.user, side=Picking.Side.PLATFORM).select_related(
            "shell__platform__institution"
        )

    @extend_schema(
        request=NewAnswerSerializer, responses={200: AnswerPlanSerializer, 201: AnswerSerializer}
    )
    @action(detail=True, methods=["post"])
    def answer(self, request: Request, pk: str) -> Response:
        """Plan, and unless ``dry_run`` sign the answer."""
        picking = self.get_object()
        asked = read(NewAnswerSerializer, request)
        items, sheet = asked["items"], sheet_of(asked)
        if asked["dry_run"]:
            return Response(AnswerPlanSerializer(plan_answer(picking, items, sheet)[1]).data)
        return Response(
            AnswerSerializer(answer_picking(picking, items, sheet, self.user)).data, status=201
        )


class AskSerializer(serializers.Serializer[Any]):
    """Where the browser goes to pick at the publisher."""

    url = serializers.CharField()


class AskViewset(OfPairing):
    """Asking the publisher's own picker for items."""

    serializer_class = AskSerializer
    queryset = Picking.objects.none()

    @extend_schema(request=None, responses={201: AskSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Begin."""
        picking = start_asking(self.pairing(), self.user)
        return Response(
            AskSerializer({"url": f"{settings.BASE_URL}/lti/platform/pick/{picking.pk}"}).data,
            status=201,
        )
