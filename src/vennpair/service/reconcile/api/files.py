"""Two files compared, for those without any connection. Nothing of them is kept."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, get_args

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.decorators import action
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.levels import Level
from vennpair.core.reconcile.files import TableError
from vennpair.core.reconcile.files.suggest import suggest_layout
from vennpair.core.reconcile.files.write_back import write_back
from vennpair.core.reconcile.report import report_of_tables
from vennpair.core.reconcile.table_report import table_report
from vennpair.core.reconcile.tables import compare_tables
from vennpair.service.connect.api.base import Viewset
from vennpair.service.kernel.web.reading import read
from vennpair.service.kernel.web.tables import (
    layout_of,
    read_upload,
    refused_table,
    require_fitting,
)
from vennpair.service.reconcile.api.comparisons import MatrixSerializer
from vennpair.service.reconcile.models import Comparison
from vennpair.service.reconcile.reports import FORMS, answer_with

TAKES = ("unsent", "differ", "gradebook_only")


class TwoFilesSerializer(serializers.Serializer[Any]):
    """Two tables of scores: tidy CSV, OneRoster 1.2 set, or wide with a layout, which is used for
    whichever is wide.

    ``form`` asks for a report, or with ``gradebook`` for the gradebook file with only the cells
    changed that ``take`` names.
    """

    publisher = serializers.FileField()
    gradebook = serializers.FileField()
    layout = serializers.CharField(default="", allow_blank=True, max_length=20_000)
    class_id = serializers.CharField(default="", allow_blank=True, max_length=255)
    form = serializers.ChoiceField([*FORMS, "gradebook"], required=False)
    take = serializers.MultipleChoiceField(
        choices=TAKES, required=False, help_text="unsent where none is named"
    )


class FileFindingSerializer(serializers.Serializer[Any]):
    """One difference; numbers are exact decimals as text, absent ones empty."""

    scope = serializers.CharField()
    finding = serializers.CharField()
    level = serializers.ChoiceField(get_args(Level))
    learner = serializers.CharField(allow_blank=True)
    email = serializers.CharField(allow_blank=True)
    item = serializers.CharField(allow_blank=True)
    publisher = serializers.CharField(allow_blank=True)
    publisher_points = serializers.CharField(allow_blank=True)
    gradebook = serializers.CharField(allow_blank=True)
    gradebook_points = serializers.CharField(allow_blank=True)
    cause = serializers.CharField(allow_blank=True)


class FileComparisonSerializer(serializers.Serializer[Any]):
    """What two files have in common: counts as in the contract, the Venn, the class, and every
    finding.
    """

    summary = serializers.DictField(child=serializers.IntegerField())
    venn = serializers.DictField(
        child=serializers.ListField(child=serializers.IntegerField()),
        help_text="left, both and right of learners, columns and scores",
    )
    matrix = MatrixSerializer()
    findings = FileFindingSerializer(many=True)


class LookSerializer(serializers.Serializer[Any]):
    """A wide table to look at."""

    file = serializers.FileField()


class SuggestionSerializer(serializers.Serializer[Any]):
    """A first layout, and what of it was guessed."""

    layout = serializers.CharField()
    guesses = serializers.ListField(child=serializers.CharField())


class FileComparisonViewset(Viewset):
    """Comparing two files."""

    queryset = Comparison.objects.none()
    serializer_class = FileComparisonSerializer
    parser_classes = [MultiPartParser]
    token_scope = "read"  # noqa: S105 - names a right, and nothing is changed anywhere

    @extend_schema(
        request={"multipart/form-data": TwoFilesSerializer},
        responses={
            200: FileComparisonSerializer,
            (200, "application/octet-stream"): OpenApiTypes.BINARY,
        },
    )
    def create(self, request: Request) -> HttpResponse:
        """Compare; answer with the comparison, or with the report or file that ``form``
        asks for.
        """
        facts = read(TwoFilesSerializer, request)
        left, right = facts["publisher"], facts["gradebook"]
        data, form = right.read(), facts.get("form")
        publisher = read_upload(left.name, left.read(), facts["layout"], facts["class_id"])
        gradebook = read_upload(
            right.name, data, facts["layout"], facts["class_id"], places=form == "gradebook"
        )
        result = compare_tables(publisher, gradebook, grid=True)
        if form == "gradebook":
            written = _refusing(
                lambda: write_back(
                    data,
                    right.name,
                    gradebook,
                    result,
                    set(facts.get("take", ())) or {"unsent"},
                    layout_of(facts["layout"]),
                )
            )
            return answer_with(written[0], "text/csv", right.name)
        document = table_report(result)
        report = report_of_tables(result, document, left.name, right.name)
        if form is not None:
            media, write = FORMS[form]
            return answer_with(write(report), media, f"comparison.{form}")
        matrix = {"items": report.items, "learners": report.learners, "rows": report.kinds}
        return Response(
            FileComparisonSerializer(
                {
                    "summary": document["summary"],
                    "venn": report.venn,
                    "matrix": matrix,
                    "findings": report.rows,
                }
            ).data
        )

    @extend_schema(request={"multipart/form-data": LookSerializer}, responses=SuggestionSerializer)
    @action(detail=False, methods=["post"])
    def layout(self, request: Request) -> Response:
        """Look at a wide table and suggest how to read it."""
        asked = read(LookSerializer, request)
        upload = asked["file"]
        data = upload.read()
        require_fitting(data)
        found = _refusing(lambda: suggest_layout(data, upload.name))
        return Response(
            SuggestionSerializer({"layout": found.layout, "guesses": found.guesses}).data
        )


def _refusing(work: Callable[[], Any]) -> Any:
    try:
        return work()
    except TableError as error:
        raise refused_table(error) from error
