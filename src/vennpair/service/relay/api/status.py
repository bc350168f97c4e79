"""How the relay of a pairing is doing, its chart, sending again, and the health of platforms."""

from __future__ import annotations

from typing import Any, get_args

from django.db import transaction
from django.utils import timezone
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.relay.health import Health
from vennpair.service.connect.api.base import Viewset
from vennpair.service.connect.permissions import Administrator
from vennpair.service.kernel.web.reading import read, the_one
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.relay.actions.send_again import (
    Wanted,
    compare_cells,
    require_sending,
    send_again,
)
from vennpair.service.relay.actions.take_newer import newer_at_publisher, take_newer
from vennpair.service.relay.models import Cell, RelaySetting
from vennpair.service.relay.queries import chart_of, platforms_health, setting_of, summary_of

MOST_HOURS = 24 * 120


class RelayVerdictSerializer(serializers.Serializer[Any]):
    """Whether all is well (``well``, ``waits``, ``trouble``, ``off``), in a sentence, with what to
    do; ``act`` is what one press may do about it.
    """

    level = serializers.ChoiceField(get_args(Health))
    sentence = serializers.CharField()
    remedy = serializers.CharField()
    act = serializers.CharField()


class LagSerializer(serializers.Serializer[Any]):
    """From a report's arrival to the platform's acceptance, in milliseconds."""

    median_ms = serializers.FloatField(allow_null=True)
    most_ms = serializers.FloatField(allow_null=True)


class OldestSerializer(serializers.Serializer[Any]):
    """The score that has waited longest."""

    since = serializers.DateTimeField()
    learner = serializers.CharField()
    item = serializers.CharField()
    state = serializers.CharField()
    reason = serializers.CharField()


class RelaySettingSerializer(serializers.ModelSerializer[RelaySetting]):
    """After how many minutes a waiting score raises the alarm.

    Every how many minutes results are read, 0 where the publisher reports.
    """

    alarm_minutes = serializers.IntegerField(min_value=1, max_value=60 * 24 * 7, required=False)
    pull_minutes = serializers.IntegerField(min_value=0, max_value=60 * 24 * 7, required=False)

    class Meta:
        model = RelaySetting
        fields = ["alarm_minutes", "pull_minutes", "pulled_at", "pull_trouble"]
        read_only_fields = ["pulled_at", "pull_trouble"]


class RelaySerializer(serializers.Serializer[Any]):
    """The relay of a pairing: on or off, whether all is well, cells by state, held ones by what
    they wait for.
    """

    on = serializers.BooleanField()
    state = serializers.ChoiceField(Pairing.State.choices)
    verdict = RelayVerdictSerializer()
    counts = serializers.DictField(child=serializers.IntegerField())
    held = serializers.DictField(child=serializers.IntegerField())
    received = serializers.IntegerField()
    unclaimed = serializers.IntegerField()
    oldest = OldestSerializer(allow_null=True)
    lag = LagSerializer()
    pause = serializers.CharField()
    setting = RelaySettingSerializer()


class SendAgainSerializer(serializers.Serializer[Any]):
    """Which scores: of learners, items (placements), a category, or all.

    ``force`` also sends what the gradebook shows, or what somebody typed over.
    """

    learners = serializers.ListField(child=serializers.UUIDField(), required=False, max_length=2000)
    placements = serializers.ListField(
        child=serializers.UUIDField(), required=False, max_length=2000
    )
    category = serializers.CharField(required=False, allow_null=True, allow_blank=True)
    force = serializers.BooleanField(default=False)
    dry_run = serializers.BooleanField(default=False)


class QueuedSerializer(serializers.Serializer[Any]):
    """How many scores the gradebook shows otherwise, shows as they are, and could not be read; how
    many were queued, or would be.

    ``newer`` counts scores of the publisher that nobody had reported: they are taken first.
    ``publisher_trouble`` says why it could not be asked.
    """

    differ = serializers.IntegerField()
    same = serializers.IntegerField()
    unread = serializers.IntegerField()
    queued = serializers.IntegerField()
    newer = serializers.IntegerField()
    publisher_trouble = serializers.CharField(allow_blank=True)


class BucketSerializer(serializers.Serializer[Any]):
    """Scores received and accepted in one stretch of time; the lag is of the accepted ones."""

    at = serializers.DateTimeField()
    received = serializers.IntegerField()
    accepted = serializers.IntegerField()
    lag_ms = serializers.FloatField(allow_null=True)
    most_ms = serializers.FloatField(allow_null=True)


class ChartSerializer(serializers.Serializer[Any]):
    """Stretches of ``minutes`` from ``since`` until ``until``; empty ones are left out."""

    since = serializers.DateTimeField()
    until = serializers.DateTimeField()
    minutes = serializers.IntegerField()
    buckets = BucketSerializer(many=True)


class RelayViewset(OfPairing):
    """The relay of a pairing."""

    queryset = Cell.objects.none()
    serializer_class = RelaySerializer
    pagination_class = None

    @extend_schema(
        responses=the_one(RelaySerializer),
        operation_id="pairings_relay_retrieve",
        filters=False,
    )
    def list(self, request: Request, pairing_pk: str) -> Response:
        """Say how the relay is doing."""
        return Response(RelaySerializer(summary_of(self.pairing(), timezone.now())).data)

    @extend_schema(
        request=SendAgainSerializer, responses={200: QueuedSerializer, 202: QueuedSerializer}
    )
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Read what the publisher holds that is newer than its reports, compare with the gradebook,
        then send again what it shows otherwise.
        """
        pairing, asked = self.pairing(), read(SendAgainSerializer, request)
        facts = asked
        wanted = Wanted(
            facts.get("learners", ()), facts.get("placements", ()), facts.get("category")
        )
        newer = newer_at_publisher(pairing)
        if not facts["dry_run"]:
            require_sending(pairing, self.user)
            take_newer(pairing, newer)
        compared = compare_cells(pairing, wanted)
        told = {
            "differ": len(compared.differ),
            "same": len(compared.same),
            "unread": compared.unread,
            "newer": len(newer.rows),
            "publisher_trouble": newer.trouble,
        }
        if facts["dry_run"]:
            return Response(
                told
                | {"queued": len(compared.differ) + (len(compared.same) if facts["force"] else 0)}
            )
        return Response(
            told | {"queued": send_again(pairing, self.user, wanted, force=facts["force"])},
            status=202,
        )

    @extend_schema(
        parameters=[OpenApiParameter("hours", int, description="how far back, 24 unless named")],
        responses=ChartSerializer,
        filters=False,
    )
    @action(detail=False)
    def chart(self, request: Request, pairing_pk: str) -> Response:
        """Return scores received and accepted over time, and the lag between."""
        asked = request.query_params.get("hours", "24")
        hours = min(max(int(asked), 1), MOST_HOURS) if asked.isdigit() else 24
        return Response(ChartSerializer(chart_of(self.pairing(), hours, timezone.now())).data)

    @extend_schema(request=RelaySettingSerializer, responses=RelaySettingSerializer, filters=False)
    @action(detail=False, methods=["patch"])
    def setting(self, request: Request, pairing_pk: str) -> Response:
        """Change when a waiting score raises the alarm, and how often results are read."""
        pairing = self.pairing()
        require_instructor(self.user, pairing.shell)
        asked = read(RelaySettingSerializer, request)
        with transaction.atomic():
            RelaySetting.objects.update_or_create(pairing=pairing, defaults=asked)
            record(
                "relay.setting",
                "How the relay is watched and fed was changed.",
                pairing=pairing,
                actor=self.user,
                after=asked,
            )
        return Response(RelaySettingSerializer(setting_of(pairing)).data)


class PlatformHealthSerializer(serializers.Serializer[Any]):
    """How one platform takes scores: open or paused and why, calls at once, what waits, and the
    last day's accepted, refused and failed sendings.
    """

    platform = serializers.UUIDField()
    name = serializers.CharField()
    open = serializers.BooleanField()
    pause = serializers.CharField()
    at_once = serializers.IntegerField()
    waiting = serializers.IntegerField()
    oldest = serializers.DateTimeField(allow_null=True)
    accepted = serializers.IntegerField()
    refused = serializers.IntegerField()
    failed = serializers.IntegerField()
    lag = LagSerializer()
    live = serializers.IntegerField()
    off = serializers.IntegerField()


class PlatformHealthViewset(Viewset):
    """The health of all platforms, for administrators."""

    permission_classes = [*Viewset.permission_classes, Administrator]
    queryset = Cell.objects.none()
    serializer_class = PlatformHealthSerializer
    pagination_class = None

    @extend_schema(responses=PlatformHealthSerializer(many=True), filters=False)
    def list(self, request: Request) -> Response:
        """Say how each platform takes scores."""
        return Response(
            PlatformHealthSerializer(
                platforms_health(self.institution, timezone.now()), many=True
            ).data
        )
