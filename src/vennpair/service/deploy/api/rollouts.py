"""Rollouts: planned, started, looked at; the shell's outline; what travels."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Q, QuerySet
from django.http import Http404, HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.deploy.capabilities import route_of, what_travels
from vennpair.service.deploy.actions.plan_deploy import plan_deploy
from vennpair.service.deploy.actions.start_rollout import start_rollouts
from vennpair.service.deploy.actions.write_links import write_links
from vennpair.service.deploy.api.sheets import (
    NewRolloutSerializer,
    PlansSerializer,
    section_of,
    sheet_of,
)
from vennpair.service.deploy.models import Rollout, Step
from vennpair.service.deploy.shell_snapshot import offers_of
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.web.reading import read, the_one
from vennpair.service.operations.steps import AGAIN
from vennpair.service.pair.api.jobs import JobSerializer
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.queries import pairings_for, require_instructor, require_instructors


class StepSerializer(serializers.ModelSerializer[Step]):
    """One outside write of a rollout."""

    title = serializers.CharField()

    class Meta:
        model = Step
        fields = read_only_fields = ["kind", "title", "state", "message"]


class RolloutSerializer(serializers.ModelSerializer[Rollout]):
    """A rollout with its job; those of several shells share a ``batch``."""

    job = JobSerializer(read_only=True)
    shell = serializers.CharField(source="pairing.shell.label")
    batch = serializers.UUIDField(source="job.batch", allow_null=True)
    failed = serializers.SerializerMethodField()
    undone = serializers.SerializerMethodField()

    class Meta:
        model = Rollout
        fields = read_only_fields = [
            "id",
            "batch",
            "pairing",
            "shell",
            "purpose",
            "folder",
            "job",
            "made_at",
            "failed",
            "undone",
        ]

    def get_failed(self, rollout: Rollout) -> int:
        """Return how many steps could not be done, or were not begun."""
        counted: int | None = getattr(rollout, "left", None)
        if counted is None:
            return sum(step.state in AGAIN for step in rollout.job.deploy_steps.all())
        return counted

    def get_undone(self, rollout: Rollout) -> bool:
        """Say whether it was undone."""
        return any(each.state == Job.State.DONE for each in rollout.job.undone_by.all())


class WholeRolloutSerializer(RolloutSerializer):
    """The same with every step."""

    steps = StepSerializer(source="job.deploy_steps", many=True, read_only=True)

    class Meta(RolloutSerializer.Meta):
        fields = read_only_fields = [*RolloutSerializer.Meta.fields, "steps"]


class StartedSerializer(serializers.Serializer[Any]):
    """The rollouts that were started, one a shell."""

    rollouts = WholeRolloutSerializer(many=True)


class NodeSerializer(serializers.Serializer[Any]):
    """A folder or entry of the shell's outline."""

    id = serializers.CharField()
    title = serializers.CharField()
    kind = serializers.CharField()
    folder = serializers.CharField()
    depth = serializers.IntegerField()
    visible = serializers.BooleanField()
    audience = serializers.CharField()
    column = serializers.CharField()
    due_at = serializers.CharField()
    shown_from = serializers.CharField()


class TravelSerializer(serializers.Serializer[Any]):
    """One thing: whether it travels, how, and what to do by hand."""

    what = serializers.CharField()
    travels = serializers.CharField()
    how = serializers.CharField()
    by_hand = serializers.CharField()


class TravelsSerializer(serializers.Serializer[Any]):
    """The route that rollouts of this pairing take and why, and what travels between its sides."""

    route = serializers.CharField()
    why = serializers.CharField()
    rows = TravelSerializer(many=True)


class RolloutViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, OfPairing):
    """Rollouts: first a plan (``dry_run``), then steps."""

    serializer_class = WholeRolloutSerializer
    queryset = Rollout.objects.none()
    ordering = ("-made_at", "id")

    def get_serializer_class(self) -> Any:
        """Lists leave the steps out."""
        return RolloutSerializer if self.action == "list" else WholeRolloutSerializer

    def in_pairing(self) -> QuerySet[Rollout]:
        """Return the pairing's rollouts, the newest first."""
        rows = (
            self.pairing()
            .rollouts.select_related("job", "pairing__shell")
            .prefetch_related("job__undone_by")
            .order_by("-made_at")
        )
        if self.action == "list":
            left = Q(job__deploy_steps__state__in=AGAIN)
            return rows.annotate(left=Count("job__deploy_steps", filter=left))
        return rows.prefetch_related("job__deploy_steps__placement")

    @extend_schema(
        request=NewRolloutSerializer, responses={200: PlansSerializer, 202: StartedSerializer}
    )
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Plan, and unless ``dry_run`` start."""
        pairing = self.pairing()
        require_instructor(self.user, pairing.shell)
        wanted = read(NewRolloutSerializer, request)
        named = {each["pairing"] for each in wanted["sections"]}
        found = {each.pk: each for each in pairings_for(self.user).filter(pk__in=named)}
        if named - set(found):
            raise Http404
        require_instructors(self.user, [each.shell for each in found.values()])
        sections = [section_of(each, found[each["pairing"]]) for each in wanted["sections"]]
        planned = plan_deploy(pairing, wanted["items"], sheet_of(wanted), sections)
        if wanted["dry_run"]:
            return Response(PlansSerializer({"shells": planned}).data)
        return Response(
            StartedSerializer({"rollouts": start_rollouts(planned, self.user)}).data, status=202
        )

    @extend_schema(
        request=NewRolloutSerializer,
        responses={(200, "application/vnd.ims.imsccv1p3"): OpenApiTypes.BINARY},
    )
    @action(detail=False, methods=["post"])
    def cartridge(self, request: Request, pairing_pk: str) -> HttpResponse:
        """Write the links as a thin cartridge to upload; each is claimed at its first launch."""
        pairing = self.pairing()
        asked = read(NewRolloutSerializer, request)
        name, data = write_links(pairing, asked["items"], sheet_of(asked), self.user)
        return HttpResponse(
            data,
            content_type="application/vnd.ims.imsccv1p3",
            headers={"Content-Disposition": f'attachment; filename="{name}"'},
        )


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


class TravelsViewset(OfPairing):
    """What travels between the two sides."""

    queryset = Rollout.objects.none()
    serializer_class = TravelsSerializer
    pagination_class = None

    @extend_schema(
        responses=the_one(TravelsSerializer),
        operation_id="pairings_travels_retrieve",
        filters=False,
    )
    def list(self, request: Request, pairing_pk: str) -> Response:
        """Ask both sides what they offer."""
        offers = offers_of(self.pairing())
        route, why = route_of(offers)
        return Response(
            TravelsSerializer({"route": route, "why": why, "rows": what_travels(offers)}).data
        )
