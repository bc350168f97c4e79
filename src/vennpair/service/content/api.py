"""Imports and items of a pairing."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django_filters import rest_framework as filters
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.parsers import JSONParser, MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.api.nested import OfPairing
from vennpair.service.content.actions.start_import import start_import
from vennpair.service.content.models import Import, Item
from vennpair.service.ops.api import JobSerializer


class ItemSerializer(serializers.ModelSerializer[Item]):
    """An item with where it stands: ``placed``, ``planned``, ``failed`` or ``no``; ``points`` is exact text."""

    points = serializers.SerializerMethodField()
    placed = serializers.SerializerMethodField()
    folder = serializers.SerializerMethodField()
    column = serializers.SerializerMethodField()

    class Meta:
        model = Item
        fields = read_only_fields = ["id", "title", "shown_title", "kind", "unit", "position", "audience", "points", "due_date", "category", "reason", "placed", "folder", "column"]

    def get_points(self, item: Item) -> str | None:
        """Return the points without trailing zeros."""
        return None if item.points is None else f"{item.points.normalize():f}"

    def get_placed(self, item: Item) -> str:
        """Return where the item stands."""
        placement = getattr(item, "placement", None)
        return placement.state if placement else "no"

    def get_folder(self, item: Item) -> str:
        """Return the folder that it was placed in."""
        placement = getattr(item, "placement", None)
        return placement.folder if placement else ""

    def get_column(self, item: Item) -> bool:
        """Say whether it has a gradebook column."""
        placement = getattr(item, "placement", None)
        return bool(placement and placement.column_url)


class ItemFilter(filters.FilterSet):
    """By kind, unit, words of the title, and whether it is placed."""

    kind = filters.CharFilter()
    unit = filters.CharFilter()
    q = filters.CharFilter(field_name="shown_title", lookup_expr="icontains")
    placed = filters.BooleanFilter(method="by_placed")

    class Meta:
        model = Item
        fields = ["kind", "unit"]

    def by_placed(self, queryset: QuerySet[Item], name: str, value: bool) -> QuerySet[Item]:
        """Keep items that stand in the shell, or those that do not."""
        return queryset.filter(placement__state="placed") if value else queryset.exclude(placement__state="placed")


class NewImportSerializer(serializers.Serializer[Any]):
    """Where the cartridge comes from: the publisher, or the file that is sent along."""

    source = serializers.ChoiceField(["publisher", "upload"], default="publisher")
    file = serializers.FileField(required=False)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """An upload needs its file."""
        if attrs["source"] == "upload" and not attrs.get("file"):
            raise serializers.ValidationError({"file": "An upload needs a file."})
        return attrs


class ImportSerializer(serializers.ModelSerializer[Import]):
    """An import with its job and its report."""

    job = JobSerializer(read_only=True)

    class Meta:
        model = Import
        fields = read_only_fields = ["id", "source", "filename", "title", "version", "counts", "findings", "report", "job"]


class ItemViewset(mixins.ListModelMixin, OfPairing):
    """The items of a pairing, in the publisher's order."""

    serializer_class = ItemSerializer
    queryset = Item.objects.none()
    filterset_class = ItemFilter

    def get_queryset(self) -> QuerySet[Item]:
        """Return the items that are still at the publisher."""
        return self.pairing().items.filter(gone=False).select_related("placement") if "pairing_pk" in self.kwargs else self.queryset

    def paginate_queryset(self, queryset: QuerySet[Item]) -> Any:
        """Page by the publisher's order."""
        self.paginator.ordering = ("position", "id")  # type: ignore[union-attr]
        return super().paginate_queryset(queryset)


class ImportViewset(mixins.RetrieveModelMixin, OfPairing):
    """Imports of cartridges."""

    serializer_class = ImportSerializer
    queryset = Import.objects.none()
    parser_classes = [JSONParser, MultiPartParser]

    def get_queryset(self) -> QuerySet[Import]:
        """Return the pairing's imports."""
        return self.pairing().imports.select_related("job") if "pairing_pk" in self.kwargs else self.queryset

    @extend_schema(request=NewImportSerializer, responses={202: ImportSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Start an import."""
        pairing = self.pairing()
        asked = NewImportSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        upload = asked.validated_data.get("file") if asked.validated_data["source"] == "upload" else None
        made = start_import(pairing, request.user, upload)
        return Response(ImportSerializer(made).data, status=202)
