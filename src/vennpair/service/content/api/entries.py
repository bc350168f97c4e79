"""The entries of an import: listed, looked into, renamed, matched."""

from __future__ import annotations

from typing import Any

from django.db.models import Q, QuerySet
from django_filters import rest_framework as filters
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.generics import get_object_or_404
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.content.actions.correct_entries import (
    correct_match,
    names_by_pattern,
    rename_entries,
)
from vennpair.service.content.models import Entry
from vennpair.service.content.preview import preview
from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.api.nested import OfPairing


class EntrySerializer(serializers.ModelSerializer[Entry]):
    """A row of the outline: what it is, what was understood of it, and what became of it.

    ``points`` is exact text.
    """

    points = serializers.SerializerMethodField()
    due_at = serializers.CharField(read_only=True)
    custom = serializers.DictField(child=serializers.CharField(), read_only=True)
    questions = serializers.DictField(
        child=serializers.IntegerField(),
        read_only=True,
        help_text="how many questions of each kind a quiz has",
    )

    class Meta:
        model = Entry
        fields = read_only_fields = [
            *(
                "id",
                "position",
                "parent",
                "depth",
                "kind",
                "title",
                "shown_title",
                "naming",
                "naming_reason",
                "unit",
                "audience",
                "url",
                "new_window",
                "custom",
                "questions",
            ),
            *(
                "line_item",
                "points",
                "due_at",
                "category",
                "reason",
                "group",
                "trouble",
                "trouble_message",
                "trouble_remedy",
                "blocked",
                "state",
                "message",
                "node",
            ),
        ]

    def get_points(self, entry: Entry) -> str | None:
        """Return the points without trailing zeros."""
        return None if entry.points is None else f"{entry.points.normalize():f}"


class EntryFilter(filters.FilterSet):
    """By kind, state, words of the title, and what needs attention."""

    kind = filters.CharFilter()
    state = filters.CharFilter()
    q = filters.CharFilter(field_name="shown_title", lookup_expr="icontains")
    attention = filters.BooleanFilter(
        method="by_attention", help_text="those with a trouble, a proposed name, or that failed"
    )

    class Meta:
        model = Entry
        fields = ["kind", "state"]

    def by_attention(self, queryset: QuerySet[Entry], name: str, value: bool) -> QuerySet[Entry]:
        """Keep those that somebody should look at."""
        wanted = (
            ~Q(trouble="") | Q(naming__in=["proposed", "told_apart"]) | Q(state=Entry.State.FAILED)
        )
        return queryset.filter(wanted) if value else queryset.exclude(wanted)


class QuestionSerializer(serializers.Serializer[Any]):
    """One question of an assessment; prompt and choices are harmless HTML."""

    title = serializers.CharField()
    kind = serializers.CharField()
    prompt = serializers.CharField()
    choices = serializers.ListField(child=serializers.CharField())
    points = serializers.CharField(allow_null=True)


class PreviewSerializer(serializers.Serializer[Any]):
    """A look at an entry; ``html`` is harmless, ``files`` come along with it."""

    kind = serializers.CharField()
    title = serializers.CharField()
    html = serializers.CharField()
    url = serializers.CharField()
    custom = serializers.DictField(child=serializers.CharField())
    new_window = serializers.BooleanField()
    questions = QuestionSerializer(many=True)
    files = serializers.ListField(child=serializers.CharField())
    vendor = serializers.CharField()


class RenameSerializer(serializers.Serializer[Any]):
    """New names by entry id; or ``entries`` and a ``pattern`` with {title}, {unit}, {kind},
    {number}.
    """

    names = serializers.DictField(child=serializers.CharField(max_length=255), default=dict)
    entries = serializers.ListField(child=serializers.UUIDField(), default=list, max_length=5_000)
    pattern = serializers.CharField(default="", allow_blank=True, max_length=255)
    dry_run = serializers.BooleanField(default=False)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """One of the two ways is needed."""
        if bool(attrs["names"]) == bool(attrs["pattern"]):
            raise serializers.ValidationError(
                {"names": "Give either names, or entries and a pattern."}
            )
        return attrs


class NameSerializer(serializers.Serializer[Any]):
    """An entry's name before and after."""

    id = serializers.CharField()
    before = serializers.CharField()
    after = serializers.CharField()


class MatchSerializer(serializers.Serializer[Any]):
    """The graded item that a link opens; null for none."""

    item = serializers.UUIDField(allow_null=True)


class EntryViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, OfPairing):
    """The outline of an import, in reading order."""

    serializer_class = EntrySerializer
    queryset = Entry.objects.none()
    ordering = ("position",)
    filterset_class = EntryFilter

    def in_pairing(self) -> QuerySet[Entry]:
        """Return the import's entries."""
        return get_object_or_404(
            self.pairing().imports, pk=self.kwargs["import_pk"]
        ).entries.select_related(
            "import_of__package", "import_of__pairing__shell__platform__institution", "item"
        )

    @extend_schema(responses=PreviewSerializer)
    @action(detail=True, methods=["get"])
    def preview(self, request: Request, pairing_pk: str, import_pk: str, pk: str) -> Response:
        """Look at an entry before it is imported."""
        return Response(PreviewSerializer(preview(self.get_object())).data)

    @extend_schema(request=MatchSerializer, responses=EntrySerializer)
    @action(detail=True, methods=["post"])
    def match(self, request: Request, pairing_pk: str, import_pk: str, pk: str) -> Response:
        """Say which graded item a link opens; kept for later imports."""
        entry = self.get_object()
        asked = read(MatchSerializer, request)
        wanted = asked["item"]
        item = get_object_or_404(self.pairing().items, pk=wanted) if wanted else None
        return Response(EntrySerializer(correct_match(entry, item, self.user)).data)

    @extend_schema(request=RenameSerializer, responses=NameSerializer(many=True), filters=False)
    @action(detail=False, methods=["post"], pagination_class=None)
    def rename(self, request: Request, pairing_pk: str, import_pk: str) -> Response:
        """Rename one or many; with ``dry_run`` only show the new names."""
        entries = self.get_queryset()
        wanted = read(RenameSerializer, request)
        chosen = list(
            entries.filter(pk__in=wanted["entries"] or list(wanted["names"])).order_by("position")
        )
        names = (
            names_by_pattern(chosen, wanted["pattern"])
            if wanted["pattern"]
            else {name: title for name, title in wanted["names"].items()}
        )
        rows = [
            {"id": str(each.pk), "before": each.shown_title, "after": names.get(str(each.pk), "")}
            for each in chosen
        ]
        if not wanted["dry_run"]:
            rename_entries(
                get_object_or_404(self.pairing().imports, pk=import_pk), names, self.user
            )
        return Response(NameSerializer(rows, many=True).data)
