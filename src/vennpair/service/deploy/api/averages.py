"""Columns with a total, and the scores of columns that were taken back."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.relay.totals import Missing, Weighting
from vennpair.service.deploy.actions.average_column import (
    Row,
    as_file,
    averages,
    make_average,
    remove_average,
)
from vennpair.service.deploy.actions.send_totals import start_sending
from vennpair.service.deploy.models import AverageColumn, ColumnExport
from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.api.jobs import JobSerializer
from vennpair.service.pair.api.nested import OfPairing

CSV = {(200, "text/csv"): OpenApiTypes.STR}


def _csv(name: str, text: str) -> HttpResponse:
    return HttpResponse(
        text,
        content_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{name}.csv"'},
    )


class AverageSerializer(serializers.ModelSerializer[AverageColumn]):
    """A column with a total: its title and points, which graded items and categories count, and how
    they weigh (docs/relaying.md).
    """

    items = serializers.ListField(child=serializers.UUIDField(), default=list, max_length=2000)
    categories = serializers.ListField(
        child=serializers.CharField(allow_blank=True, max_length=255), default=list, max_length=200
    )
    weighting = serializers.ChoiceField(
        [each.value for each in Weighting], default=Weighting.EQUAL.value
    )
    weights = serializers.DictField(
        child=serializers.DecimalField(max_digits=9, decimal_places=4, min_value=0), default=dict
    )
    missing = serializers.ChoiceField(
        [each.value for each in Missing], default=Missing.UNTIL_DUE.value
    )
    places = serializers.IntegerField(min_value=0, max_value=4, default=2)
    keeps_up = serializers.BooleanField(default=False)
    points = serializers.DecimalField(
        max_digits=14, decimal_places=4, min_value=0, normalize_output=True
    )
    column = serializers.SerializerMethodField()

    class Meta:
        model = AverageColumn
        fields = [
            "id",
            "title",
            "points",
            "items",
            "categories",
            "weighting",
            "weights",
            "missing",
            "places",
            "keeps_up",
            "column",
            "sent_at",
        ]
        read_only_fields = ["id", "column", "sent_at"]

    def get_column(self, made: AverageColumn) -> bool:
        """Say whether it is in the gradebook."""
        return bool(made.column_url)


class AverageRowSerializer(serializers.Serializer[Any]):
    """One learner's total and its arithmetic: each item's score of its points, then the steps to
    the number.
    """

    learner = serializers.CharField(source="learner.name")
    score = serializers.SerializerMethodField()
    arithmetic = serializers.SerializerMethodField()

    def get_score(self, row: Row) -> str | None:
        """Return the average, null where nothing counts yet."""
        return None if row.total.score is None else f"{row.total.score:f}"

    def get_arithmetic(self, row: Row) -> list[str]:
        """Return each share, then each step, as text."""
        shares = [
            f"{share.title}:"
            f" {'missing, 0' if share.score is None else f'{share.score.normalize():f}'} of"
            f" {share.points.normalize():f}"
            for share in row.total.shares
        ]
        return [*shares, *row.total.steps]


class AverageViewset(mixins.ListModelMixin, OfPairing):
    """Columns with a total, computed here, offered as a file or relayed."""

    serializer_class = AverageSerializer
    queryset = AverageColumn.objects.none()
    pagination_class = None

    def in_pairing(self) -> QuerySet[AverageColumn]:
        """Return the pairing's averages."""
        return (
            self.pairing()
            .averages.select_related(
                "pairing__shell__platform__institution", "pairing__course__publisher"
            )
            .order_by("title", "pk")
        )

    def create(self, request: Request, pairing_pk: str) -> Response:
        """Make one, with its column in the gradebook."""
        pairing, asked = self.pairing(), read(AverageSerializer, request)
        wanted = asked | {
            "weights": {
                name: f"{weight.normalize():f}" for name, weight in asked["weights"].items()
            }
        }
        return Response(
            AverageSerializer(make_average(pairing, wanted, self.user)).data, status=201
        )

    @extend_schema(request=None, responses={204: None})
    def destroy(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Remove one with its column; a column that holds scores stays."""
        remove_average(self.get_object(), self.user)
        return Response(status=204)

    @extend_schema(responses=AverageRowSerializer(many=True))
    @action(detail=True)
    def rows(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Return every learner's average now."""
        return Response(AverageRowSerializer(averages(self.get_object()), many=True).data)

    @extend_schema(responses=CSV)
    @action(detail=True)
    def file(self, request: Request, pairing_pk: str, pk: str) -> HttpResponse:
        """Return the averages as a table."""
        made = self.get_object()
        return _csv("averages", as_file(made))

    @extend_schema(request=None, responses={202: JobSerializer})
    @action(detail=True, methods=["post"])
    def send(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Relay the averages into their column."""
        return Response(JobSerializer(start_sending(self.get_object(), self.user)).data, status=202)


class ExportSerializer(serializers.ModelSerializer[ColumnExport]):
    """The scores of a column that was taken back."""

    class Meta:
        model = ColumnExport
        fields = read_only_fields = ["id", "title", "made_at"]


class ExportViewset(mixins.ListModelMixin, OfPairing):
    """The scores of columns that were taken back, as tables."""

    serializer_class = ExportSerializer
    queryset = ColumnExport.objects.none()
    pagination_class = None

    def in_pairing(self) -> QuerySet[ColumnExport]:
        """Return the pairing's exports, the newest first."""
        return self.pairing().exports.order_by("-made_at")

    @extend_schema(responses=CSV)
    @action(detail=True)
    def file(self, request: Request, pairing_pk: str, pk: str) -> HttpResponse:
        """Return one as a table."""
        return _csv("scores", self.get_object().text)
