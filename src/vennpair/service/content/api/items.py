"""Items of a pairing, and the publisher's catalogue that tells of them."""

from __future__ import annotations

from typing import Any

from django.db.models import Q, QuerySet
from django_filters import rest_framework as filters
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.content.actions.refresh_catalogue import refresh_catalogue, words_of
from vennpair.service.content.models import CatalogueReading, Item
from vennpair.service.content.queries import items_listed
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.pair.queries import require_instructor

SHOWN_READINGS = 20


class ItemSerializer(serializers.ModelSerializer[Item]):
    """An item with whether it is in the shell: ``placed``, ``planned``, ``failed`` or ``no``.

    ``points`` is exact text.
    """

    points = serializers.SerializerMethodField()
    due_at = serializers.CharField(read_only=True)
    subjects = serializers.ListField(child=serializers.CharField(), read_only=True)
    placed = serializers.SerializerMethodField()
    folder = serializers.SerializerMethodField()
    column = serializers.SerializerMethodField()

    class Meta:
        model = Item
        fields = read_only_fields = [
            "id",
            "title",
            "shown_title",
            "kind",
            "unit",
            "position",
            "audience",
            "points",
            "due_at",
            "category",
            "line_item",
            "reason",
            "subjects",
            "placed",
            "folder",
            "column",
        ]

    def get_points(self, item: Item) -> str | None:
        """Return the points without trailing zeros."""
        return None if item.points is None else f"{item.points.normalize():f}"

    def get_placed(self, item: Item) -> str:
        """Return where the item is: as a link that was placed, or as content that an import
        brought.
        """
        placement = getattr(item, "placement", None)
        if placement is None:
            return "placed" if item.brought else "no"  # type: ignore[attr-defined]
        return str(placement.state)

    def get_folder(self, item: Item) -> str:
        """Return the folder that it was put into."""
        placement = getattr(item, "placement", None)
        return placement.folder if placement else item.brought_into or ""  # type: ignore[attr-defined]

    def get_column(self, item: Item) -> bool:
        """Say whether it has a gradebook column."""
        placement = getattr(item, "placement", None)
        return bool(placement and placement.column_url)


class ItemFilter(filters.FilterSet):
    """By kind, unit, subject, words of the title, and whether it is placed."""

    kind = filters.CharFilter()
    unit = filters.CharFilter()
    q = filters.CharFilter(field_name="shown_title", lookup_expr="icontains")
    subject = filters.CharFilter(method="by_subject")
    placed = filters.BooleanFilter(method="by_placed")

    class Meta:
        model = Item
        fields = ["kind", "unit"]

    def by_subject(self, queryset: QuerySet[Item], name: str, value: str) -> QuerySet[Item]:
        """Keep items that are about a subject, as their package writes it."""
        return queryset.filter(subjects__contains=[value])

    def by_placed(self, queryset: QuerySet[Item], name: str, value: bool) -> QuerySet[Item]:
        """Keep items that are in the shell, or those that are not."""
        there = Q(placement__state="placed") | Q(brought=True)
        return queryset.filter(there) if value else queryset.exclude(there)


class ChangeSerializer(serializers.Serializer[Any]):
    """One change of an item at the publisher: new, renamed, moved, points, date, withdrawn
    or back.
    """

    key = serializers.CharField()
    kind = serializers.CharField()
    title = serializers.CharField()
    before = serializers.CharField()
    after = serializers.CharField()


class CatalogueSerializer(serializers.ModelSerializer[CatalogueReading]):
    """One reading of the publisher's catalogue, and what had changed since the one before."""

    changes = ChangeSerializer(many=True)
    words = serializers.SerializerMethodField()

    class Meta:
        model = CatalogueReading
        fields = read_only_fields = ["at", "items", "changes", "words"]

    def get_words(self, reading: CatalogueReading) -> str:
        """Return how many changes of each kind there are."""
        return words_of(reading)


class ItemViewset(mixins.ListModelMixin, OfPairing):
    """The items of a pairing, in the publisher's order."""

    serializer_class = ItemSerializer
    queryset = Item.objects.none()
    ordering = ("position", "id")
    filterset_class = ItemFilter

    def in_pairing(self) -> QuerySet[Item]:
        """Return the items that are still at the publisher."""
        return items_listed(self.pairing())


class CatalogueViewset(OfPairing):
    """The publisher's catalogue: read again on demand, and every night."""

    serializer_class = CatalogueSerializer
    queryset = CatalogueReading.objects.none()
    pagination_class = None

    @extend_schema(responses=CatalogueSerializer(many=True), filters=False)
    def list(self, request: Request, pairing_pk: str) -> Response:
        """Return the last readings, the newest first."""
        return Response(
            CatalogueSerializer(
                self.pairing().readings.order_by("-at")[:SHOWN_READINGS], many=True
            ).data
        )

    @extend_schema(request=None, responses=CatalogueSerializer)
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Read now."""
        pairing = self.pairing()
        require_instructor(self.user, pairing.shell)
        return Response(CatalogueSerializer(refresh_catalogue(pairing, self.user)).data)
