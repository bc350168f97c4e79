"""Imports: begun, watched, stopped; their entries.

Bringing these into the shell, taking them out, writing them as a file.
"""

from __future__ import annotations

from typing import Any, get_args

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.generics import get_object_or_404
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.levels import Level
from vennpair.service.content.actions.plan_delivery import plan_delivery
from vennpair.service.content.actions.start_delivery import start_delivery
from vennpair.service.content.actions.start_import import start_import
from vennpair.service.content.actions.stop_import import stop_import
from vennpair.service.content.actions.write_cartridge import start_writing
from vennpair.service.content.api.deliveries import (
    DeliveryPlanSerializer,
    DeliverySerializer,
    NewDeliverySerializer,
    NewWrittenSerializer,
    WrittenSerializer,
    order_of,
)
from vennpair.service.content.models import Import, Written
from vennpair.service.content.queries import imports_listed
from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.api.jobs import JobSerializer
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.pair.queries import require_instructor


class NewImportSerializer(serializers.Serializer[Any]):
    """Where the content comes from: the publisher's cartridge, its catalogue, or a ``package`` that
    was sent before.
    """

    source = serializers.ChoiceField(  # type: ignore[assignment]  # our word
        ["publisher", "catalogue", "upload"], default="publisher"
    )
    package = serializers.UUIDField(required=False)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """An upload needs its package."""
        if attrs["source"] == "upload" and not attrs.get("package"):
            raise serializers.ValidationError(
                {"package": "An upload needs its package: send the file first."}
            )
        return attrs


class ImportFindingSerializer(serializers.Serializer[Any]):
    """What was found wrong with a package; ``where`` is a place in it, as a file's name."""

    code = serializers.CharField()
    level = serializers.ChoiceField(get_args(Level))
    where = serializers.CharField(default="")
    message = serializers.CharField()
    remedy = serializers.CharField(default="")


class ImportSerializer(serializers.ModelSerializer[Import]):
    """An import with its job and its report.

    ``stage`` is queued, reading, checked, importing or done. ``counts`` has how many of each kind
    the package holds, ``report`` how many items are new, changed, the same or gone, and how many
    entries are blocked or lie beside the outline; both are empty until it is read.
    """

    counts = serializers.DictField(child=serializers.IntegerField(), read_only=True)
    findings = ImportFindingSerializer(many=True, read_only=True)
    report = serializers.DictField(child=serializers.IntegerField(), read_only=True)
    job = JobSerializer(read_only=True)
    kept = serializers.SerializerMethodField()
    standing = serializers.SerializerMethodField()

    class Meta:
        model = Import
        fields = read_only_fields = [
            "id",
            "source",
            "stage",
            "filename",
            "title",
            "version",
            "profile",
            "counts",
            "findings",
            "report",
            "made_at",
            "kept",
            "standing",
            "job",
        ]

    def get_kept(self, made: Import) -> bool:
        """Say whether the package's bytes are kept, so that more of it can be looked at and brought
        in.
        """
        return made.package_id is not None or made.source == "catalogue"

    def get_standing(self, made: Import) -> bool:
        """Say whether something that this import made is in the shell, so that it can be taken
        out again.
        """
        return bool(getattr(made, "in_shell", False))  # a new one has nothing there


class ImportViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, OfPairing):
    """Imports of cartridges."""

    serializer_class = ImportSerializer
    queryset = Import.objects.none()
    ordering = ("-made_at", "id")
    filterset_fields: list[str] = []

    def in_pairing(self) -> QuerySet[Import]:
        """Return the pairing's imports."""
        return imports_listed(self.pairing())

    @extend_schema(request=NewImportSerializer, responses={202: ImportSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Start an import: the package is read and checked; nothing is put into the shell."""
        pairing = self.pairing()
        asked = read(NewImportSerializer, request)
        package = (
            get_object_or_404(pairing.packages, pk=asked["package"])
            if asked["source"] == "upload"
            else None
        )
        return Response(
            ImportSerializer(start_import(pairing, self.user, asked["source"], package)).data,
            status=202,
        )

    @extend_schema(request=None, responses={202: JobSerializer})
    @action(detail=True, methods=["post"])
    def stop(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Stop the reading or bringing in that is under way."""
        return Response(JobSerializer(stop_import(self.get_object(), self.user)).data, status=202)

    @extend_schema(
        request=NewDeliverySerializer,
        responses={200: DeliveryPlanSerializer, 202: DeliverySerializer},
    )
    @action(detail=True, methods=["post"], pagination_class=None)
    def deliveries(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Plan bringing chosen entries into the shell, and unless ``dry_run`` start."""
        made = self.get_object()
        require_instructor(self.user, made.pairing.shell)
        asked = read(NewDeliverySerializer, request)
        plan = plan_delivery(made, order_of(asked))
        if asked["dry_run"]:
            return Response(DeliveryPlanSerializer(plan).data)
        return Response(DeliverySerializer(start_delivery(plan, self.user)).data, status=202)

    @extend_schema(responses=DeliverySerializer(many=True), filters=False)
    @deliveries.mapping.get
    def list_deliveries(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Return what was brought in and taken out, the newest first."""
        return Response(
            DeliverySerializer(
                self.get_object()
                .deliveries.select_related("job__undoes__delivery")
                .order_by("-made_at")[:50],
                many=True,
            ).data
        )

    @extend_schema(request=NewWrittenSerializer, responses={202: WrittenSerializer})
    @action(detail=True, methods=["post"], pagination_class=None)
    def written(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Write chosen entries as a cartridge whose links point to Venn Pair."""
        asked = read(NewWrittenSerializer, request)
        made = start_writing(
            self.get_object(),
            order_of(asked),
            asked["profile"],
            self.user,
        )
        return Response(WrittenSerializer(made).data, status=202)

    @extend_schema(responses=WrittenSerializer(many=True), filters=False)
    @written.mapping.get
    def list_written(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Return the cartridges that were written from this import, the newest first."""
        rows = (
            Written.objects.filter(import_of=self.get_object())
            .select_related("job", "package")
            .order_by("-job__made_at")[:20]
        )
        return Response(WrittenSerializer(rows, many=True).data)
