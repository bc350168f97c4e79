"""Kept right: drift with its remedies, and links opened as a test learner."""

from __future__ import annotations

from typing import Any, get_args

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.deploy.learner_check import Verdict
from vennpair.core.levels import Level
from vennpair.service.deploy.actions.check_as_learner import start_check
from vennpair.service.deploy.actions.look_for_drift import start_looking
from vennpair.service.deploy.actions.mend_drift import choose_way, start_mending
from vennpair.service.deploy.api.rollouts import WholeRolloutSerializer
from vennpair.service.deploy.models import DriftFound, LearnerCheck, Watch
from vennpair.service.kernel.web.reading import read, the_one
from vennpair.service.pair.api.jobs import JobSerializer
from vennpair.service.pair.api.nested import OfPairing

SHOWN_CHECKS = 10


class DriftSerializer(serializers.ModelSerializer[DriftFound]):
    """One drift: what changed, where, who is likely to have done it, and what it breaks."""

    level = serializers.ChoiceField(get_args(Level), read_only=True)

    class Meta:
        model = DriftFound
        fields = read_only_fields = [
            "id",
            "placement",
            "kind",
            "side",
            "level",
            "title",
            "before",
            "after",
            "who",
            "breaks",
        ]


class WatchSerializer(serializers.Serializer[Any]):
    """How drift is met, when it was last looked for, and what was found then."""

    way = serializers.ChoiceField(Watch.Way.choices)
    looked_at = serializers.DateTimeField(allow_null=True)
    drifts = DriftSerializer(many=True)


class WaySerializer(serializers.Serializer[Any]):
    """How drift is met from now on: ask, follow or keep."""

    way = serializers.ChoiceField(["ask", "follow", "keep"])


class MendSerializer(serializers.Serializer[Any]):
    """Which drifts, and how: follow the publisher and what was deployed, or keep what the shell
    has.
    """

    drifts = serializers.ListField(child=serializers.UUIDField(), min_length=1, max_length=5000)
    way = serializers.ChoiceField(["follow", "keep"])


class MendedSerializer(serializers.Serializer[Any]):
    """The rollout that writes to the shell; null where nothing has to be written."""

    rollout = WholeRolloutSerializer(allow_null=True)


class DriftViewset(OfPairing):
    """Drift of a pairing: the last look, a look on demand, and mending."""

    serializer_class = WatchSerializer
    queryset = DriftFound.objects.none()
    pagination_class = None

    @extend_schema(
        responses=the_one(WatchSerializer),
        operation_id="pairings_drifts_retrieve",
        filters=False,
    )
    def list(self, request: Request, pairing_pk: str) -> Response:
        """Return what the last look found."""
        pairing = self.pairing()
        watch = Watch.objects.filter(pairing=pairing).first() or Watch(pairing=pairing)
        return Response(
            WatchSerializer(
                {"way": watch.way, "looked_at": watch.looked_at, "drifts": pairing.drifts.all()}
            ).data
        )

    @extend_schema(request=None, responses={202: JobSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Look now."""
        return Response(JobSerializer(start_looking(self.pairing(), self.user)).data, status=202)

    @extend_schema(request=MendSerializer, responses={202: MendedSerializer})
    @action(detail=False, methods=["post"])
    def mend(self, request: Request, pairing_pk: str) -> Response:
        """Meet drifts."""
        pairing, asked = self.pairing(), read(MendSerializer, request)
        made = start_mending(pairing, asked["drifts"], asked["way"], self.user)
        return Response(MendedSerializer({"rollout": made}).data, status=202)

    @extend_schema(request=WaySerializer, responses=WatchSerializer)
    @action(detail=False, methods=["post"])
    def way(self, request: Request, pairing_pk: str) -> Response:
        """Choose how drift is met from now on."""
        pairing, asked = self.pairing(), read(WaySerializer, request)
        choose_way(pairing, asked["way"], self.user)
        return self.list(request, pairing_pk)


class NewCheckSerializer(serializers.Serializer[Any]):
    """Which placements to open; none named: all that are there."""

    placements = serializers.ListField(child=serializers.UUIDField(), default=list, max_length=2000)


class CheckFindingSerializer(serializers.Serializer[Any]):
    """One thing that is wrong with a link."""

    code = serializers.CharField()
    message = serializers.CharField()
    remedy = serializers.CharField()
    level = serializers.ChoiceField(get_args(Level))


class CheckRowSerializer(serializers.Serializer[Any]):
    """What was met at one link: yes, no or unknown."""

    placement = serializers.CharField()
    title = serializers.CharField()
    opens = serializers.ChoiceField(get_args(Verdict))
    visible = serializers.ChoiceField(get_args(Verdict))
    date = serializers.ChoiceField(get_args(Verdict))
    score = serializers.ChoiceField(get_args(Verdict))
    findings = CheckFindingSerializer(many=True)


class LearnerCheckSerializer(serializers.ModelSerializer[LearnerCheck]):
    """One check with its rows."""

    job = JobSerializer(read_only=True)
    rows = CheckRowSerializer(many=True)

    class Meta:
        model = LearnerCheck
        fields = read_only_fields = ["id", "job", "made_at", "rows"]


class LearnerCheckViewset(mixins.RetrieveModelMixin, OfPairing):
    """Links opened as the platform's test learner, down both hops."""

    serializer_class = LearnerCheckSerializer
    queryset = LearnerCheck.objects.none()
    pagination_class = None

    def in_pairing(self) -> QuerySet[LearnerCheck]:
        """Return the pairing's checks, the newest first."""
        return self.pairing().learner_checks.select_related("job").order_by("-made_at")

    @extend_schema(responses=LearnerCheckSerializer(many=True), filters=False)
    def list(self, request: Request, pairing_pk: str) -> Response:
        """Return the last checks."""
        return Response(LearnerCheckSerializer(self.get_queryset()[:SHOWN_CHECKS], many=True).data)

    @extend_schema(request=NewCheckSerializer, responses={202: LearnerCheckSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Open links now."""
        pairing, asked = self.pairing(), read(NewCheckSerializer, request)
        return Response(
            LearnerCheckSerializer(start_check(pairing, asked["placements"], self.user)).data,
            status=202,
        )
