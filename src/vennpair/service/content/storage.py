"""A package's bytes in the database, piece by piece: never whole in memory, and within reach of
every worker.
"""

from __future__ import annotations

import hashlib
import io
import os
import tempfile
from collections import OrderedDict
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

from django.utils import timezone

from vennpair.service.content.models import Package, Part
from vennpair.service.kernel.errors import Refused

PART_BYTES = 4_000_000
HELD_PARTS = 3


def part_count(size: int) -> int:
    """Return how many parts a package of ``size`` bytes has."""
    return -(-size // PART_BYTES)


def store_stream(package: Package, pieces: Iterable[bytes]) -> None:
    """Store a stream as the package's parts, in place of what was there."""
    Part.objects.filter(package=package).delete()
    digest, waiting, number, size = hashlib.sha256(), bytearray(), 0, 0
    for piece in pieces:
        digest.update(piece)
        waiting += piece
        size += len(piece)
        while len(waiting) >= PART_BYTES:
            Part.objects.create(package=package, number=number, data=bytes(waiting[:PART_BYTES]))
            del waiting[:PART_BYTES]
            number += 1
    if waiting:
        Part.objects.create(package=package, number=number, data=bytes(waiting))
    package.size, package.sha256, package.complete = size, digest.hexdigest(), True
    package.save(update_fields=["size", "sha256", "complete"])


def pieces_of(package: Package) -> Iterator[bytes]:
    """Yield the parts in order. Raises Refused where one is missing."""
    for number in range(part_count(package.size)):
        yield _part(package, number)


@contextmanager
def spooled(package: Package) -> Iterator[Path]:
    """Lay a package into a temporary file for a job's many reads; note its checksum."""
    Package.objects.filter(pk=package.pk).update(used_at=timezone.now())
    digest = hashlib.sha256()
    handle, name = tempfile.mkstemp(prefix="vennpair-", suffix=".imscc")
    path = Path(name)
    try:
        with os.fdopen(handle, "wb") as target:
            for piece in pieces_of(package):
                digest.update(piece)
                target.write(piece)
        if not package.sha256:
            package.sha256 = digest.hexdigest()
            package.save(update_fields=["sha256"])
        yield path
    finally:
        path.unlink(missing_ok=True)


def opened(package: Package) -> io.BufferedReader:
    """Return a package as a seekable stream for a few reads: only the parts that are asked for are
    fetched.
    """
    return io.BufferedReader(_Parts(package), 1 << 16)


class _Parts(io.RawIOBase):
    """Reads across the parts of a package; holds the last few."""

    def __init__(self, package: Package) -> None:
        super().__init__()
        self._package = package
        self._at = 0
        self._held: OrderedDict[int, bytes] = OrderedDict()

    def readable(self) -> bool:
        return True

    def seekable(self) -> bool:
        return True

    def seek(self, offset: int, whence: int = io.SEEK_SET) -> int:
        start = {io.SEEK_SET: 0, io.SEEK_CUR: self._at, io.SEEK_END: self._package.size}[whence]
        self._at = max(0, start + offset)
        return self._at

    def tell(self) -> int:
        return self._at

    def readinto(self, buffer: memoryview) -> int:  # type: ignore[override]
        if self._at >= self._package.size:
            return 0
        number, offset = divmod(self._at, PART_BYTES)
        if number not in self._held:
            self._held[number] = _part(self._package, number)
            if len(self._held) > HELD_PARTS:
                self._held.popitem(last=False)
        piece = self._held[number][offset : offset + len(buffer)]
        buffer[: len(piece)] = piece
        self._at += len(piece)
        return len(piece)


def _part(package: Package, number: int) -> bytes:
    data = (
        Part.objects.filter(package=package, number=number).values_list("data", flat=True).first()
    )
    if data is None:
        raise Refused(
            "package_gone",
            "The package's bytes are no longer stored.",
            "Upload it again, or fetch it from the publisher again.",
            410,
        )
    return bytes(data)
