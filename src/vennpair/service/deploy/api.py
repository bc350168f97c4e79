"""Planning and starting rollouts, and the shell's outline."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.api.nested import OfPairing
from vennpair.service.deploy.actions.plan_deploy import plan_deploy
from vennpair.service.deploy.actions.start_rollout import start_rollout
from vennpair.service.deploy.models import Rollout, Step
from vennpair.service.ops.api import JobSerializer
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.queries import require_instructor


class NewRolloutSerializer(serializers.Serializer[Any]):
    """Which items, into which folder (title or id; empty is the top), and what to do with undated ones."""

    items = serializers.ListField(child=serializers.UUIDField(), min_length=1, max_length=2000)
    folder = serializers.CharField(allow_blank=True, default="", max_length=255)
    undated = serializers.ChoiceField(["ask", "column", "link"], default="ask")
    dry_run = serializers.BooleanField(default=False)


class PlannedLinkSerializer(serializers.Serializer[Any]):
    """A link that will be made; with a column where ``points`` is not null."""

    item = serializers.CharField()
    title = serializers.CharField()
    position = serializers.IntegerField()
    visible = serializers.BooleanField()
    points = serializers.SerializerMethodField()
    due_at = serializers.CharField()

    def get_points(self, link: Any) -> str | None:
        """Return the points without trailing zeros."""
        return None if link.points is None else f"{link.points.normalize():f}"


class PlanNoticeSerializer(serializers.Serializer[Any]):
    """Something about one item that one should know before it happens."""

    code = serializers.CharField()
    item = serializers.CharField()
    title = serializers.CharField()
    message = serializers.CharField()
    remedy = serializers.CharField()


class PlanSerializer(serializers.Serializer[Any]):
    """All that will happen, before it does."""

    folder = serializers.CharField()
    new_folder = serializers.CharField()
    links = PlannedLinkSerializer(many=True)
    columns = serializers.IntegerField()
    unchanged = serializers.ListField(child=serializers.CharField())
    notices = PlanNoticeSerializer(many=True)


class StepSerializer(serializers.ModelSerializer[Step]):
    """One outside write of a rollout."""

    title = serializers.CharField(source="placement.title", default="")

    class Meta:
        model = Step
        fields = read_only_fields = ["kind", "title", "state", "message"]


class RolloutSerializer(serializers.ModelSerializer[Rollout]):
    """A rollout with its job and steps."""

    job = JobSerializer(read_only=True)
    steps = StepSerializer(many=True, read_only=True)

    class Meta:
        model = Rollout
        fields = read_only_fields = ["id", "folder", "job", "steps"]


class NodeSerializer(serializers.Serializer[Any]):
    """A folder or entry of the shell's outline."""

    id = serializers.CharField()
    title = serializers.CharField()
    kind = serializers.CharField()
    depth = serializers.IntegerField()
    visible = serializers.BooleanField()


class RolloutViewset(mixins.RetrieveModelMixin, OfPairing):
    """Rollouts: first a plan (``dry_run``), then steps."""

    serializer_class = RolloutSerializer
    queryset = Rollout.objects.none()

    def get_queryset(self) -> QuerySet[Rollout]:
        """Return the pairing's rollouts."""
        return self.pairing().rollouts.select_related("job").prefetch_related("steps__placement") if "pairing_pk" in self.kwargs else self.queryset

    @extend_schema(request=NewRolloutSerializer, responses={200: PlanSerializer, 202: RolloutSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Plan, and unless ``dry_run`` start."""
        pairing = self.pairing()
        require_instructor(request.user, pairing.shell)
        asked = NewRolloutSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        wanted = asked.validated_data
        planned = plan_deploy(pairing, wanted["items"], wanted["folder"].strip(), wanted["undated"])
        if wanted["dry_run"]:
            return Response(PlanSerializer(planned.plan).data)
        return Response(RolloutSerializer(start_rollout(pairing, planned, request.user)).data, status=202)


class OutlineViewset(OfPairing):
    """The shell's outline as the platform shows it now."""

    queryset = Rollout.objects.none()
    serializer_class = NodeSerializer
    pagination_class = None

    @extend_schema(responses=NodeSerializer(many=True), filters=False)
    def list(self, request: Request, pairing_pk: str) -> Response:
        """Read the outline."""
        shell = self.pairing().shell
        nodes = shell_gateway(shell).outline(shell.outline_url) if shell.outline_url else []
        return Response(NodeSerializer(nodes, many=True).data)
