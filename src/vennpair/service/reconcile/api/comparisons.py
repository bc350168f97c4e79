"""Comparisons of a pairing and their findings."""

from __future__ import annotations

from typing import Any

from django.db.models import F, Q, QuerySet
from django.db.models.fields.json import KT
from django.http import HttpResponse
from django_filters import rest_framework as filters
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.generics import get_object_or_404
from rest_framework.parsers import JSONParser, MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.web.reading import read
from vennpair.service.kernel.web.tables import read_upload
from vennpair.service.pair.api.jobs import JobSerializer
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.reconcile.actions.start_comparison import start_comparison
from vennpair.service.reconcile.models import Comparison, Finding
from vennpair.service.reconcile.reports import FORMS, answer_with, write_report
from vennpair.service.reconcile.uploaded_gradebook import given_gradebook


class RootSerializer(serializers.Serializer[Any]):
    """A change of a column that explains cells: its kind, what both sides say of it, and how many
    cells agree once it is mended.
    """

    kind = serializers.CharField()
    item = serializers.CharField()
    cells = serializers.IntegerField()
    publisher = serializers.CharField(allow_null=True)
    gradebook = serializers.CharField(allow_null=True)


class SummarySerializer(serializers.Serializer[Any]):
    """Counts: matched learners and columns, cells with a score, cells and other findings by kind.

    ``open`` counts the findings of every kind that nobody keeps as they are, ``urgent`` those of
    them that are no mere notes, ``new`` those that the comparison before did not have; ``oldest``
    is since when the oldest urgent one is open. ``roots``: single changes that explain many cells.
    """

    learners = serializers.IntegerField()
    columns = serializers.IntegerField()
    cells = serializers.IntegerField()
    kinds = serializers.DictField(child=serializers.IntegerField())
    others = serializers.DictField(child=serializers.IntegerField())
    open = serializers.DictField(child=serializers.IntegerField(), default=dict)
    kept = serializers.IntegerField(default=0)
    urgent = serializers.IntegerField(default=0)
    safe = serializers.IntegerField(default=0)
    new = serializers.IntegerField(default=0)
    oldest = serializers.CharField(allow_null=True, default=None)
    roots = RootSerializer(many=True, default=list)


class VennSerializer(serializers.Serializer[Any]):
    """Left, both and right of the figure.

    ``scores_differ`` is how many in the middle do not agree.
    """

    items = serializers.ListField(child=serializers.IntegerField())
    columns = serializers.ListField(child=serializers.IntegerField())
    scores = serializers.ListField(child=serializers.IntegerField())
    scores_differ = serializers.ListField(child=serializers.IntegerField())


class MatrixSerializer(serializers.Serializer[Any]):
    """The kinds of all cells: one row a learner, one column an item; null where nobody has a score.

    ``placements`` and ``people`` are the ids of columns and rows, ``matched_by`` how each learner
    was matched: launch, id or email.
    """

    items = serializers.ListField(child=serializers.CharField())
    placements = serializers.ListField(child=serializers.CharField(), default=list)
    learners = serializers.ListField(child=serializers.CharField())
    people = serializers.ListField(child=serializers.CharField(), default=list)
    matched_by = serializers.ListField(child=serializers.CharField(), default=list)
    rows = serializers.ListField(
        child=serializers.ListField(child=serializers.CharField(allow_null=True))
    )


class SourceSerializer(serializers.Serializer[Any]):
    """Where one side was read, and when: ``side`` is publisher, gradebook or sent."""

    side = serializers.ChoiceField(["publisher", "gradebook", "sent"])
    name = serializers.CharField()
    how = serializers.CharField()
    at = serializers.DateTimeField()


class ComparisonLineSerializer(serializers.ModelSerializer[Comparison]):
    """One comparison in a list; summary and venn are null until it is done."""

    job = JobSerializer(read_only=True)
    summary = SummarySerializer(read_only=True, allow_null=True)
    venn = VennSerializer(read_only=True, allow_null=True)
    sources = SourceSerializer(many=True, read_only=True)
    file = serializers.SerializerMethodField()

    class Meta:
        model = Comparison
        fields = read_only_fields = ["id", "at", "job", "file", "summary", "venn", "sources"]

    def get_file(self, comparison: Comparison) -> str:
        """Return the name of the file that stood for the gradebook, empty where the platform was
        asked.
        """
        named = vars(comparison).get("given_name", None)  # the file itself is not read for a list
        return str(
            (
                comparison.given.get("name")
                if named is None and "given" in vars(comparison)
                else named
            )
            or ""
        )

    def to_representation(self, instance: Comparison) -> Any:
        """Leave out what is not there yet."""
        if instance.at is None:
            for name in ("summary", "venn", "matrix"):
                setattr(instance, name, None)
        return super().to_representation(instance)


class ComparisonSerializer(ComparisonLineSerializer):
    """The same with the matrix; ``shares`` has for each learner and column two shares of the
    points, publisher first.
    """

    matrix = MatrixSerializer(read_only=True, allow_null=True)
    shares = serializers.ListField(
        child=serializers.ListField(
            child=serializers.ListField(child=serializers.FloatField(allow_null=True))
        ),
        read_only=True,
    )

    class Meta(ComparisonLineSerializer.Meta):
        fields = read_only_fields = [*ComparisonLineSerializer.Meta.fields, "matrix", "shares"]


class CandidateSerializer(serializers.Serializer[Any]):
    """Somebody of the other side who may be the same person.

    ``key`` names them when a match is chosen.
    """

    key = serializers.CharField(default="")
    name = serializers.CharField()
    email = serializers.CharField()
    why = serializers.CharField()
    likeness = serializers.FloatField()


class FindingSerializer(serializers.ModelSerializer[Finding]):
    """One difference, its cause in a sentence, and the remedies offered; ``default`` is empty where
    a person must choose.

    ``since``: when a comparison first found it so; ``new``: the one before did not; ``kept``: when
    somebody decided to leave it.
    """

    remedies = serializers.ListField(child=serializers.CharField())
    candidates = CandidateSerializer(many=True)
    placement = serializers.UUIDField(source="placement_id", allow_null=True)
    person = serializers.UUIDField(source="person_id", allow_null=True)
    new = serializers.BooleanField()

    class Meta:
        model = Finding
        fields = read_only_fields = [
            *(
                "id",
                "scope",
                "kind",
                "level",
                "side",
                "placement",
                "person",
                "item",
                "learner",
                "email",
            ),
            *(
                "publisher",
                "publisher_points",
                "publisher_at",
                "source",
                "gradebook",
                "gradebook_points",
                "sent",
                "scaled",
            ),
            *(
                "cause",
                "because",
                "read",
                "remedies",
                "default",
                "candidates",
                "since",
                "new",
                "kept",
            ),
        ]


class FindingFilter(filters.FilterSet):
    """By kind, level, scope, side of the Venn, item and learner (by name or by id), and whether it
    is kept as it is or new.
    """

    kept = filters.BooleanFilter(field_name="kept", lookup_expr="isnull", exclude=True)
    new = filters.BooleanFilter(method="only_new")
    learner = filters.CharFilter(method="of_learner", help_text="a learner's name or address")

    class Meta:
        model = Finding
        fields = ["kind", "level", "scope", "side", "item", "placement", "person"]

    def of_learner(self, queryset: QuerySet[Finding], name: str, value: str) -> QuerySet[Finding]:
        """Keep those of a learner, by name or by address."""
        return queryset.filter(Q(learner__iexact=value) | Q(email__iexact=value))

    def only_new(self, queryset: QuerySet[Finding], name: str, value: bool) -> QuerySet[Finding]:
        """Keep what the comparison before did not have, or all else."""
        return (
            queryset.filter(since=F("comparison__at"))
            if value
            else queryset.exclude(since=F("comparison__at"))
        )


class GradebookFileSerializer(serializers.Serializer[Any]):
    """A gradebook as a file, in the place of the platform's: tidy CSV, OneRoster 1.2 set, or wide
    with a layout.
    """

    gradebook = serializers.FileField(required=False)
    layout = serializers.CharField(default="", allow_blank=True, max_length=20_000)
    class_id = serializers.CharField(default="", allow_blank=True, max_length=255)


class ComparisonViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, OfPairing):
    """Comparisons, newest first."""

    assistants_may = compares = frozenset({"create"})
    queryset = Comparison.objects.none()
    ordering = ("-made_at", "-pk")
    parser_classes = [JSONParser, MultiPartParser]

    def get_serializer_class(self) -> type[ComparisonLineSerializer]:
        """Return the short form for the list."""
        return ComparisonLineSerializer if self.action == "list" else ComparisonSerializer

    def in_pairing(self) -> QuerySet[Comparison]:
        """Return the pairing's comparisons."""
        found = (
            self.pairing()
            .comparisons.select_related("job")
            .annotate(given_name=KT("given__name"), made_at=F("job__made_at"))
            .defer("given")
        )
        return found.defer("matrix", "shares", "given") if self.action == "list" else found

    @extend_schema(
        parameters=[
            OpenApiParameter(
                "as", enum=list(FORMS), required=True, description="html: one page with the figures"
            )
        ],
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
    )
    @action(detail=True, pagination_class=None, filter_backends=[])
    def report(self, request: Request, pairing_pk: str, pk: str) -> HttpResponse:
        """Return the comparison to take away."""
        comparison, form = self.get_object(), request.query_params.get("as", "")
        if form not in FORMS or comparison.at is None:
            raise Refused(
                "no_such_report",
                "This comparison does not have that report.",
                f"Ask for one of {', '.join(FORMS)} once it is done.",
                404,
            )
        comparison.pairing = self.pairing()
        document = ComparisonSerializer(comparison).data
        rows = comparison.findings.all()
        findings = [dict(row) for row in FindingSerializer(rows, many=True).data]
        return answer_with(*write_report(comparison, document, findings, form))

    @extend_schema(
        request={"application/json": None, "multipart/form-data": GradebookFileSerializer},
        responses={202: ComparisonSerializer},
    )
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Compare now, with what the platform's gradebook says or with a file of it."""
        pairing, asked = self.pairing(), read(GradebookFileSerializer, request)
        facts, given = asked, None
        if upload := facts.get("gradebook"):
            given = given_gradebook(
                read_upload(upload.name, upload.read(), facts["layout"], facts["class_id"]),
                upload.name,
            )
        return Response(
            ComparisonSerializer(start_comparison(pairing, self.user, given=given)).data,
            status=202,
        )


class FindingViewset(mixins.ListModelMixin, OfPairing):
    """The findings of a comparison, errors first."""

    serializer_class = FindingSerializer
    queryset = Finding.objects.none()
    ordering = ("position", "id")
    filterset_class = FindingFilter

    def in_pairing(self) -> QuerySet[Finding]:
        """Return the comparison's findings; of itself only when it was made is read, as its matrix
        holds every cell.
        """
        known = self.pairing().comparisons.only("at")
        return get_object_or_404(known, pk=self.kwargs["comparison_pk"]).findings.all()
