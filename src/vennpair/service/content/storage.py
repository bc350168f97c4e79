"""A package's bytes, piece by piece: never whole in memory, and within reach of every worker. They
are in the database, or in a folder or an object storage (``VENNPAIR_CARTRIDGES``).
"""

from __future__ import annotations

import hashlib
import io
import logging
import os
import tempfile
import uuid
from collections import OrderedDict
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

from django.core.files.base import ContentFile
from django.core.files.storage import Storage, storages
from django.db import transaction
from django.utils import timezone

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.errors import OutsideError
from vennpair.service.content.models import Package, Part
from vennpair.service.kernel.errors import Refused

PART_BYTES = 4_000_000
HELD_PARTS = 3
HERE, BEFORE = "cartridges", "cartridges-before"  # of the settings' storages
DAY = timedelta(days=1)
log = logging.getLogger(__name__)


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
            add_part(package, number, bytes(waiting[:PART_BYTES]))
            del waiting[:PART_BYTES]
            number += 1
    if waiting:
        add_part(package, number, bytes(waiting))
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
    part = Part.objects.filter(package=package, number=number).first()
    if part is None:
        raise package_gone()
    return bytes_of(part)


def package_gone() -> Refused:
    """Return that a package, or a part of it, was deleted meanwhile."""
    return Refused(
        "package_gone",
        "The package's bytes are no longer stored.",
        "Upload it again, or fetch it from the publisher again.",
        410,
    )


def add_part(package: Package, number: int, data: bytes) -> Part:
    """Store a part that is not there yet."""
    return Part.objects.create(package=package, number=number, **_stored(package, data))


def replace_part(part: Part, data: bytes) -> None:
    """Let other bytes take the place of a part, in the caller's transaction."""
    before = part.kept
    for name, value in _stored(part.package, data).items():
        setattr(part, name, value)
    part.save(update_fields=["data", "kept"])
    if before:
        transaction.on_commit(lambda: _forget(before))


def bytes_of(part: Part) -> bytes:
    """Return a part's bytes from wherever they are. Raises Refused where no place has them,
    OutsideError where one that may have them does not answer.
    """
    if not part.kept:
        return bytes(part.data)
    silent: OutsideError | None = None
    for place in _places():
        try:
            with _answering(), place.open(part.kept) as stream:
                return bytes(stream.read())
        except FileNotFoundError:
            continue
        except OutsideError as error:
            silent = error  # the older place may have it still
    raise silent or package_gone()


def move_parts() -> Iterator[Part]:
    """Move every part that is not where the setting says, one by one; yield each once it is moved.
    Safe to stop and to repeat.
    """
    here = _place()
    for pk in Part.objects.order_by("pk").values_list("pk", flat=True).iterator():
        with transaction.atomic():
            part = Part.objects.select_for_update().filter(pk=pk).first()
            if part is None or _is_here(part, here):
                continue
            replace_part(part, bytes_of(part))
        yield part


def _is_here(part: Part, here: Storage | None) -> bool:
    if here is None:
        return not part.kept
    return bool(part.kept) and here.exists(part.kept)


def delete_orphans(now: datetime) -> int:
    """Delete what is kept outside the database of packages that are no more; return how many
    folders that are. What was written within a day is left: its package may be about to be there.
    """
    here, count = _place(), 0
    if here is None:
        return 0
    for name in here.listdir("")[0]:
        files = here.listdir(name)[1]
        known = Package.objects.filter(pk=name).exists() if _is_id(name) else True
        if known or any(now - here.get_modified_time(f"{name}/{each}") < DAY for each in files):
            continue
        for each in files:
            here.delete(f"{name}/{each}")
        here.delete(name)
        count += 1
    return count


@contextmanager
def _answering() -> Iterator[None]:
    """Call a storage inside. Raises OutsideError for whatever its library says of one that does not
    answer, or lets nobody in; only that it lacks a name passes.
    """
    try:
        yield
    except FileNotFoundError:
        raise
    except Exception as error:
        log.exception("the storage of cartridges does not answer")
        message = "The storage that keeps cartridges does not answer."
        remedy = "Nothing is lost; it is tried again. If it lasts, tell the operator."
        raise OutsideError(Failure(FailureKind.LATER, "storage", message, remedy)) from error


def _stored(package: Package, data: bytes) -> dict[str, Any]:
    here = _place()
    if here is None:
        return {"data": data, "kept": ""}
    name = f"{package.pk}/{uuid.uuid4().hex}"
    with _answering():
        return {"data": b"", "kept": here.save(name, ContentFile(data))}


def _forget(name: str) -> None:
    for place in _places():
        place.delete(name)


def _place() -> Storage | None:
    """Return where new parts go, None for the database."""
    return storages[HERE] if HERE in storages.backends else None


def _places() -> list[Storage]:
    """Return where parts may be beside the database, the newest place first."""
    return [storages[name] for name in (HERE, BEFORE) if name in storages.backends]


def _is_id(name: str) -> bool:
    try:
        uuid.UUID(name)
    except ValueError:
        return False
    return True
