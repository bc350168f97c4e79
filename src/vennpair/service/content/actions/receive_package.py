"""Receive an upload in parts, so that one that broke off goes on where it was."""

from __future__ import annotations

from django.conf import settings
from django.db import transaction
from django.db.models import Sum
from django.utils import timezone

from vennpair.service.connect.models import Institution, User
from vennpair.service.content.models import Package, Part
from vennpair.service.content.storage import (
    PART_BYTES,
    add_part,
    bytes_of,
    package_gone,
    part_count,
    replace_part,
)
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor


def begin_package(
    pairing: Pairing, actor: User, filename: str, size: int, fingerprint: str
) -> Package:
    """Return a package to send parts to: the same person's unfinished one of this file, or a new
    one. Raises Refused.
    """
    require_instructor(actor, pairing.shell)
    if size > settings.LARGEST_UPLOAD:
        raise Refused(
            "too_large",
            f"The file is larger than {settings.LARGEST_UPLOAD:,} bytes (VENNPAIR_LARGEST_UPLOAD).",
            "Leave large media out of the package, or ask an administrator to raise the limit.",
            413,
        )
    with transaction.atomic():
        begun = (
            Package.objects.filter(
                pairing=pairing, made_by=actor, fingerprint=fingerprint, size=size
            )
            .exclude(fingerprint="")
            .order_by("-used_at")
            .first()
        )
        if begun is not None:
            begun.used_at = timezone.now()
            begun.save(update_fields=["used_at"])
            return begun
        _require_room(pairing, size)
        return Package.objects.create(
            pairing=pairing,
            made_by=actor,
            filename=filename[:300],
            size=size,
            fingerprint=fingerprint[:200],
            complete=size == 0,
        )


def _require_room(pairing: Pairing, size: int) -> None:
    """Raise Refused where a pairing, or its institution, would keep more than its share."""
    institution = pairing.shell.platform.institution
    uploads = Package.objects.filter(made_by__isnull=False)
    # Who asks at the same time waits, so that two do not both take the last room.
    Institution.objects.select_for_update(no_key=True).get(pk=institution.pk)
    for kept, most, whose, setting in (
        (
            uploads.filter(pairing=pairing),
            settings.UPLOADS_OF_PAIRING,
            "this pairing",
            "VENNPAIR_UPLOADS_OF_PAIRING",
        ),
        (
            uploads.filter(pairing__shell__platform__institution=institution),
            settings.UPLOADS_OF_INSTITUTION,
            institution.name,
            "VENNPAIR_UPLOADS_OF_INSTITUTION",
        ),
    ):
        taken = kept.aggregate(bytes=Sum("size"))["bytes"] or 0
        if taken + size > most:
            raise Refused(
                "no_room",
                f"The packages that are kept for {whose} take {taken:,} of {most:,} bytes, so"
                f" {size:,} more find no room ({setting}).",
                f"One that nobody uses goes after {settings.PACKAGES_KEPT_DAYS} days; an upload that"
                " was not finished goes after two. Ask an administrator to raise the limit.",
                413,
            )


def received(package: Package) -> list[int]:
    """Return the numbers of the parts that are there."""
    return list(
        Part.objects.filter(package=package).order_by("number").values_list("number", flat=True)
    )


def receive_part(package: Package, number: int, data: bytes) -> Package:
    """Keep one part; sent again it changes nothing, and a corrected one takes its place until the
    package is read.

    Raises Refused where its number or length is wrong, or the package is gone.
    """
    count = part_count(package.size)
    expected = PART_BYTES if number < count - 1 else package.size - PART_BYTES * (count - 1)
    if number >= count or len(data) != expected:
        raise Refused(
            "bad_part",
            f"Part {number} of {count} should have {expected:,} bytes and has {len(data):,}.",
            "Begin the upload again.",
            400,
        )
    with transaction.atomic():
        # Parts may come side by side, each sees the others; and a package that was read and is no
        # cartridge is deleted meanwhile.
        if Package.objects.select_for_update().filter(pk=package.pk).first() is None:
            raise package_gone()
        part = Part.objects.filter(package=package, number=number).first()
        if part is None:
            add_part(package, number, data)
        elif bytes_of(part) != data:
            _replace(part, data)
        package.complete = Part.objects.filter(package=package).count() == count
        package.used_at = timezone.now()
        package.save(update_fields=["complete", "used_at"])
    return package


def _replace(part: Part, data: bytes) -> None:
    """Let other bytes take the place of a part. Raises Refused once the package is read."""
    if part.package.imports.exists():
        raise Refused(
            "read_already",
            "This package is read already, so its parts stay as they are.",
            "Send the corrected file as a new upload.",
            409,
        )
    replace_part(part, data)
    Package.objects.filter(pk=part.package_id).update(sha256="")
