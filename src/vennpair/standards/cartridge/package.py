"""The zip around a cartridge: opened without unpacking, refused where it could do harm."""

from __future__ import annotations

import re
import unicodedata
import zipfile
from collections.abc import Iterator
from contextlib import ExitStack, closing, contextmanager
from pathlib import Path
from typing import IO
from urllib.parse import unquote

from vennpair.standards.cartridge.findings import UnusableCartridge
from vennpair.standards.cartridge.limits import Limits, setting_name
from vennpair.standards.cartridge.members import Members
from vennpair.standards.zips import BROKEN, is_link, leads_out, shown

MANIFEST = "imsmanifest.xml"
SMALL = 10_000_000  # below this, no ratio is worth refusing


class UnreadableMember(Exception):
    """A member is listed but its bytes cannot be had (cut short, damaged, unknown compression)."""


class Package:
    """An open package: looks members up as a manifest names them, reads them within limits."""

    def __init__(self, archive: zipfile.ZipFile, members: Members, limits: Limits) -> None:
        self._archive = archive
        self._reader = members
        self._limits = limits
        self._members = _checked_members(archive, limits)
        self._by_folded: dict[str, str] = {}
        for name in self._members:
            self._by_folded.setdefault(name if name.isascii() else _fold(name), name)

    def holds(self, path: str) -> bool:
        """Say whether a path is a member's very name."""
        return path in self._members

    def find(self, path: str) -> str | None:
        """Return the member that a manifest's path means, or None.

        Tried in turn: the path as it is, percent-decoded, in Unicode normal form, and without
        its fragment or query.
        """
        if path in self._members:
            return path
        for candidate in (unquote(path), unquote(re.split(r"[?#]", path, maxsplit=1)[0])):
            if candidate in self._members:
                return candidate
            if found := self._by_folded.get(_fold(candidate)):
                return found
        return None

    def read(self, member: str) -> bytes:
        """Return a small member's bytes.

        Raises UnreadableMember, or UnusableCartridge ``too_large``.
        """
        bound = self._limits.xml_bytes
        try:
            data = self._reader.read(self._members[member], bound)
        except BROKEN as error:
            raise UnreadableMember(str(error)) from error
        if len(data) > bound:
            raise _too_large(
                member,
                f"{member} unpacks to more than {bound:,} bytes, the most that an XML file may"
                " have",
                "xml_bytes",
            )
        return data

    def fingerprint(self, member: str) -> str:
        """Return what tells a member's bytes from others without reading them: checksum and size,
        from the directory.
        """
        info = self._members[member]
        return f"{info.CRC:08x}:{info.file_size}"

    def size(self, member: str) -> int:
        """Return a member's size in bytes, unpacked."""
        return self._members[member].file_size

    def xml_bytes(self) -> int:
        """Return the size of all XML in it, unpacked, as its directory says."""
        return sum(
            info.file_size for name, info in self._members.items() if name.lower().endswith(".xml")
        )

    def open(self, member: str) -> IO[bytes]:
        """Return a stream of a member's bytes, for copying a file out."""
        return self._archive.open(self._members[member])


@contextmanager
def open_package(source: Path | IO[bytes], limits: Limits) -> Iterator[Package]:
    """Open a package and check all that can be seen from outside.

    Raises UnusableCartridge with ``not_a_zip``, ``no_manifest``, ``unsafe_path``, ``too_large``,
    ``encrypted`` or ``duplicate_member``, and OSError where the file itself cannot be opened.
    """
    with ExitStack() as stack:
        opened = stack.enter_context(source.open("rb")) if isinstance(source, Path) else source
        archive = stack.enter_context(_archive(opened))
        yield Package(archive, stack.enter_context(closing(Members(archive, opened))), limits)


def _archive(opened: IO[bytes]) -> zipfile.ZipFile:
    try:
        return zipfile.ZipFile(opened)
    except BROKEN as error:
        message = (
            "The file is not a zip archive, or it is cut short, so it is not a cartridge that can be"
            " read."
        )
        raise UnusableCartridge(
            "not_a_zip",
            "the file",
            message,
            "Download the package again; its name usually ends in .imscc or .zip.",
        ) from error


def _checked_members(archive: zipfile.ZipFile, limits: Limits) -> dict[str, zipfile.ZipInfo]:
    infos = archive.infolist()
    if len(infos) > limits.members:
        raise _too_large(
            "the file",
            f"The package has {len(infos):,} members; at most {limits.members:,} are read",
            "members",
        )
    members: dict[str, zipfile.ZipInfo] = {}
    total = 0
    for info in infos:
        name = _safe_name(info)
        if info.is_dir():
            continue
        if info.flag_bits & 0x1:
            raise UnusableCartridge(
                "encrypted",
                name,
                f"{name} is encrypted, so nobody can read it without a password.",
                "Ask for a package without password protection.",
            )
        if name in members:
            message = (
                f"{name} is in the package twice, and one cannot tell which of the two is meant."
            )
            raise UnusableCartridge(
                "duplicate_member",
                name,
                message,
                "Export the package again from where it was made.",
            )
        total += info.file_size
        _check_size(info, name, total, limits)
        members[name] = info
    if MANIFEST not in members:
        raise _no_manifest(members)
    return members


def _safe_name(info: zipfile.ZipInfo) -> str:
    name = _decoded(info).replace("\\", "/")
    if leads_out(info, name):
        what = "is a link to another file" if is_link(info) else "leads out of the package"
        message = (
            f"The member '{shown(name)}' {what}, which could overwrite or reveal files elsewhere."
        )
        raise UnusableCartridge(
            "unsafe_path",
            shown(name),
            message,
            "Do not use this file; ask its maker for a clean one.",
        )
    return "/".join(part for part in name.split("/") if part not in {"", "."})


def _decoded(info: zipfile.ZipInfo) -> str:
    """Undo zipfile's CP437 reading where a tool wrote UTF-8 names without saying so."""
    if info.flag_bits & 0x800 or info.filename.isascii():
        return info.filename
    try:
        return info.filename.encode("cp437").decode("utf-8")
    except UnicodeError:
        return info.filename


def _check_size(info: zipfile.ZipInfo, name: str, total: int, limits: Limits) -> None:
    if total > limits.total_bytes:
        raise _too_large(
            "the file",
            f"The package unpacks to more than {limits.total_bytes:,} bytes",
            "total_bytes",
        )
    if info.file_size > SMALL and info.file_size > limits.ratio * max(info.compress_size, 1):
        raise _too_large(
            name,
            f"{name} grows more than {limits.ratio:,}-fold when unpacked, as only a trap does",
            "ratio",
        )


def _too_large(where: str, what: str, limit: str) -> UnusableCartridge:
    remedy = (
        f"Split the package, or let an administrator raise {setting_name(limit)} if you trust its"
        " maker."
    )
    return UnusableCartridge("too_large", where, f"{what} ({setting_name(limit)}).", remedy)


def _no_manifest(members: dict[str, zipfile.ZipInfo]) -> UnusableCartridge:
    deeper = next((name for name in members if name.rsplit("/", 1)[-1].lower() == MANIFEST), None)
    message = f"The zip archive has no {MANIFEST} at its top, so nothing says what its files are."
    remedy = "Choose the package that the publisher exported as Common Cartridge."
    if deeper:
        message += f" There is one at {deeper}."
        remedy = "Zip what is inside the folder, not the folder itself."
    return UnusableCartridge("no_manifest", MANIFEST, message, remedy)


def _fold(path: str) -> str:
    return unicodedata.normalize("NFC", path)
