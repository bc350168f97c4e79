"""An import's package, open for what it holds beside the outline: pages, files, texts and
questions.
"""

from __future__ import annotations

import hashlib
import io
import mimetypes
import posixpath
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from vennpair.service.content.matching_context import limits
from vennpair.service.content.models import Entry, Import
from vennpair.service.content.pages import decoded
from vennpair.service.content.storage import opened
from vennpair.service.kernel.errors import Refused
from vennpair.standards.cartridge import (
    Limits,
    Package,
    UnreadableMember,
    UnusableCartridge,
    open_package,
)
from vennpair.standards.cartridge.descriptors import READERS
from vennpair.standards.cartridge.model import Descriptor
from vennpair.standards.cartridge.xml import Element, MalformedXml, parse

PIECE = 1_000_000


class PackageView:
    """Reads single members.

    Its methods may be called from several threads and never touch the database of a spooled
    package.
    """

    def __init__(self, package: Package, bounds: Limits) -> None:
        self._package = package
        self._bounds = bounds

    def find(self, path: str) -> str | None:
        """Return the member that a path means, or None."""
        return self._package.find(path) if path else None

    def page(self, member: str) -> str:
        """Return a page's text. Raises Refused where it cannot be unpacked."""
        return decoded(self._bytes(member))

    def descriptor(self, entry: Entry) -> Descriptor:
        """Return what an entry's own XML says. Raises Refused."""
        return (
            READERS[entry.kind](self.document(entry))
            if entry.kind in READERS and entry.member
            else Descriptor()
        )

    def document(self, entry: Entry) -> Element:
        """Return an entry's own XML. Raises Refused."""
        try:
            return parse(self._bytes(entry.member), entry.member, self._bounds)
        except (MalformedXml, UnusableCartridge) as error:
            raise Refused(
                "bad_xml",
                f"{entry.member} is not well-formed XML.",
                "Ask for a corrected package.",
                422,
            ) from error

    def raw(self, member: str) -> bytes:
        """Return a small member's bytes. Raises Refused."""
        return self._bytes(member)

    def size(self, member: str) -> int:
        """Return a member's size in bytes."""
        return self._package.size(member)

    def stream(self, member: str) -> IO[bytes]:
        """Return a stream of a member's bytes."""
        return self._package.open(member)

    def digest(self, member: str) -> str:
        """Return a member's SHA-256, read piece by piece."""
        total = hashlib.sha256()
        with self.stream(member) as stream:
            while piece := stream.read(PIECE):
                total.update(piece)
        return total.hexdigest()

    def _bytes(self, member: str) -> bytes:
        found = self.find(member)
        if found is None:
            raise Refused(
                "missing_file", f"The package lacks {member}.", "Ask for a complete package.", 422
            )
        try:
            return self._package.read(found)
        except (UnreadableMember, UnusableCartridge) as error:
            raise Refused(
                "missing_file",
                f"{member} cannot be unpacked: {error}",
                "Ask for a complete package.",
                422,
            ) from error


def media_type(name: str) -> str:
    """Return the media type that a file's name says."""
    return mimetypes.guess_type(name)[0] or "application/octet-stream"


def bare_name(member: str) -> str:
    """Return a file's name without its folders."""
    return posixpath.basename(member)


@contextmanager
def view_of(made: Import) -> Iterator[PackageView]:
    """Open an import's package for a look. Raises Refused where its bytes are not kept any more."""
    if made.package is None:
        raise Refused(
            "package_gone",
            "The package's bytes are no longer stored.",
            "Import it again to look into it.",
            410,
        )
    with view(opened(made.package)) as found:
        yield found


@contextmanager
def view(source: Path | io.BufferedReader) -> Iterator[PackageView]:
    """Open a package that was read before."""
    bounds = limits()
    with open_package(source, bounds) as package:
        yield PackageView(package, bounds)
