"""Receiving a cartridge in parts, and handing out one that was written."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django.http import StreamingHttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.parsers import BaseParser, JSONParser
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.content.actions.receive_package import begin_package, receive_part, received
from vennpair.service.content.models import Package
from vennpair.service.content.storage import PART_BYTES, pieces_of
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.api.nested import OfPairing


class PartParser(BaseParser):
    """Takes a body of bytes as it is, at most one part of it."""

    media_type = "application/octet-stream"

    def parse(  # type: ignore[override]  # a part is bytes, and no fields
        self, stream: Any, media_type: str | None = None, parser_context: Any = None
    ) -> bytes:
        """Return at most a part's bytes and one more, so that one too long is seen."""
        return bytes(stream.read(PART_BYTES + 1))


class NewPackageSerializer(serializers.Serializer[Any]):
    """A file to be sent.

    ``fingerprint`` is the sender's own word for it, by which a broken upload is found again.
    """

    filename = serializers.CharField(max_length=300)
    size = serializers.IntegerField(min_value=0)
    fingerprint = serializers.CharField(max_length=200, allow_blank=True, default="")


class PackageSerializer(serializers.ModelSerializer[Package]):
    """A package: its parts have ``part_bytes`` each but the last.

    ``received`` are the numbers of those that arrived.
    """

    part_bytes = serializers.SerializerMethodField()
    received = serializers.SerializerMethodField()

    class Meta:
        model = Package
        fields = read_only_fields = ["id", "filename", "size", "complete", "part_bytes", "received"]

    def get_part_bytes(self, package: Package) -> int:
        """Return the length of a part."""
        return PART_BYTES

    def get_received(self, package: Package) -> list[int]:
        """Return which parts are there."""
        return received(package)


class PackageViewset(mixins.RetrieveModelMixin, OfPairing):
    """Cartridges on their way in, or ready to be taken away."""

    serializer_class = PackageSerializer
    queryset = Package.objects.none()
    parser_classes = [JSONParser, PartParser]

    def in_pairing(self) -> QuerySet[Package]:
        """Return the pairing's packages."""
        return self.pairing().packages.all()

    @extend_schema(request=NewPackageSerializer, responses={201: PackageSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Begin an upload, or find the one that broke off."""
        pairing = self.pairing()
        asked = read(NewPackageSerializer, request)
        return Response(
            PackageSerializer(begin_package(pairing, self.user, **asked)).data,
            status=201,
        )

    @extend_schema(
        request={"application/octet-stream": OpenApiTypes.BINARY}, responses=PackageSerializer
    )
    @action(detail=True, methods=["put"], url_path="parts/<int:number>")
    def parts(self, request: Request, pairing_pk: str, pk: str, number: int) -> Response:
        """Send one part; sent again it changes nothing."""
        package = self.get_object()
        if package.made_by_id != self.user.pk:
            raise Refused("not_allowed", "Somebody else began this upload.", "Begin your own.", 403)
        if not isinstance(request.data, bytes):
            raise Refused(
                "bad_part",
                "A part is sent as application/octet-stream.",
                "Send its bytes as they are.",
                415,
            )
        return Response(PackageSerializer(receive_part(package, number, request.data)).data)

    @extend_schema(responses={(200, "application/octet-stream"): OpenApiTypes.BINARY})
    @action(detail=True, methods=["get"])
    def content(self, request: Request, pairing_pk: str, pk: str) -> StreamingHttpResponse:
        """Hand out the whole package."""
        package = self.get_object()
        if not package.complete:
            raise Refused(
                "upload_incomplete",
                "Not all of this package has arrived.",
                "Send the missing parts first.",
                409,
            )
        headers = {
            "Content-Length": str(package.size),
            "Content-Disposition": f'attachment; filename="{_plain(package.filename)}"',
        }
        return StreamingHttpResponse(
            pieces_of(package), content_type="application/vnd.ims.imsccv1p3", headers=headers
        )


def _plain(name: str) -> str:
    """Return a file name that a header can carry."""
    return (
        "".join(
            each if each.isascii() and (each.isalnum() or each in "-_. ") else "_" for each in name
        )
        or "cartridge.imscc"
    )
