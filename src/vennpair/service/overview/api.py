"""The start page and the search."""

from __future__ import annotations

from typing import Any

from django.utils import timezone
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect.api.base import SignedIn, Viewset
from vennpair.service.overview.search import search
from vennpair.service.overview.today import today_of
from vennpair.service.pair.models import Pairing


class NeedSerializer(serializers.Serializer[Any]):
    """Something that needs somebody: ``what`` happened and what to do, and where. ``level`` is
    urgent, soon or note; ``since`` when it began, where that is known.
    """

    code = serializers.CharField()
    level = serializers.ChoiceField(["urgent", "soon", "note"])
    count = serializers.IntegerField()
    shell = serializers.CharField(help_text="its label; empty where it is of several shells")
    name = serializers.CharField(help_text="what the sentence names, as a platform")
    what = serializers.CharField()
    remedy = serializers.CharField()
    link = serializers.CharField(help_text="the console's address where it is done")
    since = serializers.DateTimeField(allow_null=True)


class DaySerializer(serializers.Serializer[Any]):
    """One day in the institution's time zone."""

    date = serializers.DateField()
    received = serializers.IntegerField(help_text="scores that publishers reported")
    delivered = serializers.IntegerField(help_text="scores that gradebooks accepted")


class TodaySerializer(serializers.Serializer[Any]):
    """What needs somebody today, across all their shells, most urgent first; ``more`` needs are not
    listed. ``days`` are the last fourteen.
    """

    needs = NeedSerializer(many=True)
    more = serializers.IntegerField()
    shells = serializers.IntegerField()
    live = serializers.IntegerField(help_text="pairings that are live")
    waiting = serializers.IntegerField(help_text="scores on their way now")
    days = DaySerializer(many=True)


class FoundSerializer(serializers.Serializer[Any]):
    """Something found: a shell, an item or a learner."""

    kind = serializers.ChoiceField(["shell", "item", "learner"])
    title = serializers.CharField()
    detail = serializers.CharField()
    link = serializers.CharField(help_text="the console's address where it is shown")


class Today(SignedIn):
    """What needs one today."""

    @extend_schema(responses=TodaySerializer)
    def get(self, request: Request) -> Response:
        """Count it."""
        return Response(TodaySerializer(today_of(self.user, timezone.now())).data)


class SearchViewset(Viewset):
    """Shells, items and learners of one's own."""

    queryset = Pairing.objects.none()
    serializer_class = FoundSerializer
    pagination_class = None

    @extend_schema(
        parameters=[
            OpenApiParameter("q", str, required=True, description="words that all must be there")
        ],
        responses=FoundSerializer(many=True),
    )
    def list(self, request: Request) -> Response:
        """Find what holds every word; fewer than two letters find nothing."""
        return Response(
            FoundSerializer(
                search(self.user, str(request.query_params.get("q", ""))), many=True
            ).data
        )
