"""Comparisons of a pairing and their findings."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from django_filters import rest_framework as filters
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.api.nested import OfPairing
from vennpair.service.ops.api import JobSerializer
from vennpair.service.reconcile.actions.start_comparison import start_comparison
from vennpair.service.reconcile.models import Comparison, Finding


class SummarySerializer(serializers.Serializer[Any]):
    """Counts: matched learners and columns, cells with a score, cells and other findings by kind."""

    learners = serializers.IntegerField()
    columns = serializers.IntegerField()
    cells = serializers.IntegerField()
    kinds = serializers.DictField(child=serializers.IntegerField())
    others = serializers.DictField(child=serializers.IntegerField())


class VennSerializer(serializers.Serializer[Any]):
    """Left, both and right of the figure; ``scores_differ`` is how many in the middle do not agree."""

    items = serializers.ListField(child=serializers.IntegerField())
    columns = serializers.ListField(child=serializers.IntegerField())
    scores = serializers.ListField(child=serializers.IntegerField())
    scores_differ = serializers.ListField(child=serializers.IntegerField())


class MatrixSerializer(serializers.Serializer[Any]):
    """The kinds of all cells: one row a learner, one column an item; null where nobody has a score."""

    items = serializers.ListField(child=serializers.CharField())
    learners = serializers.ListField(child=serializers.CharField())
    rows = serializers.ListField(child=serializers.ListField(child=serializers.CharField(allow_null=True)))


class ComparisonSerializer(serializers.ModelSerializer[Comparison]):
    """One comparison; summary, venn and matrix are null until it is done."""

    job = JobSerializer(read_only=True)
    summary = SummarySerializer(read_only=True, allow_null=True)
    venn = VennSerializer(read_only=True, allow_null=True)
    matrix = MatrixSerializer(read_only=True, allow_null=True)

    class Meta:
        model = Comparison
        fields = read_only_fields = ["id", "at", "job", "summary", "venn", "matrix"]

    def to_representation(self, instance: Comparison) -> Any:
        """Leave out what is not there yet."""
        if instance.at is None:
            instance.summary = instance.venn = instance.matrix = None  # type: ignore[assignment]
        return super().to_representation(instance)


class CandidateSerializer(serializers.Serializer[Any]):
    """Somebody of the other side who may be the same person."""

    name = serializers.CharField()
    email = serializers.CharField()
    why = serializers.CharField()
    likeness = serializers.FloatField()


class FindingSerializer(serializers.ModelSerializer[Finding]):
    """One difference, its cause in a sentence, and the remedies offered."""

    remedies = serializers.ListField(child=serializers.CharField())
    candidates = CandidateSerializer(many=True)

    class Meta:
        model = Finding
        fields = read_only_fields = ["id", "scope", "kind", "level", "side", "item", "learner", "email", "publisher", "gradebook", "sent", "scaled", "cause", "remedies", "candidates"]


class FindingFilter(filters.FilterSet):
    """By kind, level, scope, side of the Venn, item and learner."""

    class Meta:
        model = Finding
        fields = ["kind", "level", "scope", "side", "item", "learner"]


class ComparisonViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, OfPairing):
    """Comparisons, newest first."""

    serializer_class = ComparisonSerializer
    queryset = Comparison.objects.none()

    def get_queryset(self) -> QuerySet[Comparison]:
        """Return the pairing's comparisons."""
        return self.pairing().comparisons.select_related("job") if "pairing_pk" in self.kwargs else self.queryset

    def paginate_queryset(self, queryset: QuerySet[Any]) -> Any:
        """Page by time."""
        self.paginator.ordering = ("-job__made_at", "-pk")  # type: ignore[union-attr]
        return super().paginate_queryset(queryset)

    @extend_schema(request=None, responses={202: ComparisonSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Compare now."""
        return Response(ComparisonSerializer(start_comparison(self.pairing(), request.user)).data, status=202)


class FindingViewset(mixins.ListModelMixin, OfPairing):
    """The findings of a comparison, errors first."""

    serializer_class = FindingSerializer
    queryset = Finding.objects.none()
    filterset_class = FindingFilter

    def get_queryset(self) -> QuerySet[Finding]:
        """Return the comparison's findings."""
        if "pairing_pk" not in self.kwargs:
            return self.queryset
        return get_object_or_404(self.pairing().comparisons, pk=self.kwargs["comparison_pk"]).findings.all()

    def paginate_queryset(self, queryset: QuerySet[Any]) -> Any:
        """Page by position."""
        self.paginator.ordering = ("position", "id")  # type: ignore[union-attr]
        return super().paginate_queryset(queryset)
