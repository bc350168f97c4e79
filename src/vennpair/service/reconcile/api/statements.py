"""Whether the grades of a pairing may be submitted, and when it is compared automatically."""

from __future__ import annotations

from typing import Any, get_args

from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.reconcile.ready import Weight
from vennpair.service.kernel.web.reading import read, the_one
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.reconcile.actions.change_schedule import change_schedule
from vennpair.service.reconcile.models import Comparison, Schedule
from vennpair.service.reconcile.submission_check import statement_of


class StatementLineSerializer(serializers.Serializer[Any]):
    """One line: ``level`` is open, look or well.

    ``page`` is where to act, below the pairing's own address in the console.
    """

    level = serializers.ChoiceField(get_args(Weight))
    what = serializers.CharField()
    sentence = serializers.CharField()
    remedy = serializers.CharField(allow_blank=True)
    page = serializers.CharField(allow_blank=True)


class ScheduleSerializer(serializers.Serializer[Any]):
    """Whether it is compared every night, and until when the grades are to be submitted."""

    nightly = serializers.BooleanField(required=False)
    grades_due = serializers.DateField(required=False, allow_null=True)


class StatementSerializer(serializers.Serializer[Any]):
    """Whether the grades are ready, in a sentence, and why; what is open comes first."""

    ready = serializers.BooleanField()
    sentence = serializers.CharField()
    lines = StatementLineSerializer(many=True)
    schedule = ScheduleSerializer()


class StatementViewset(OfPairing):
    """The statement of a pairing."""

    queryset = Comparison.objects.none()
    serializer_class = StatementSerializer
    pagination_class = None

    @extend_schema(
        responses=the_one(StatementSerializer),
        operation_id="pairings_statement_retrieve",
        filters=False,
    )
    def list(self, request: Request, pairing_pk: str) -> Response:
        """Say whether the grades are ready to be submitted."""
        pairing = self.pairing()
        said = statement_of(pairing, timezone.now())
        schedule = Schedule.objects.filter(pairing=pairing).first() or Schedule()
        return Response(
            StatementSerializer(
                {
                    "ready": said.ready,
                    "sentence": said.sentence,
                    "lines": said.lines,
                    "schedule": schedule,
                }
            ).data
        )

    @extend_schema(request=ScheduleSerializer, responses=ScheduleSerializer, filters=False)
    @action(detail=False, methods=["patch"])
    def schedule(self, request: Request, pairing_pk: str) -> Response:
        """Change when it is compared automatically, and until when the grades are to be submitted."""
        pairing, asked = self.pairing(), read(ScheduleSerializer, request)
        return Response(ScheduleSerializer(change_schedule(pairing, asked, self.user)).data)
