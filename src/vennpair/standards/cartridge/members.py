"""The bytes of a package's small members, had without Python's own per-member work.

zipfile opens a stream object for each member, which costs more than inflating it (measured: two
thirds of reading five thousand descriptors). Here the archive is mapped once; its central
directory, with all checks, stays zipfile's.
"""

from __future__ import annotations

import mmap
import struct
import zipfile
import zlib
from typing import IO

_LOCAL = struct.Struct("<4s5H3L2H")  # local file header (APPNOTE 4.3.7)
_SIGNATURE = b"PK\x03\x04"


class Members:
    """Reads whole members of one open archive. Raises what zipfile would (``zips.BROKEN``)."""

    def __init__(self, archive: zipfile.ZipFile, opened: IO[bytes]) -> None:
        self._archive = archive
        self._bytes = _mapped(opened)

    def close(self) -> None:
        """Let go of the bytes."""
        if isinstance(self._bytes, mmap.mmap):
            self._bytes.close()
        elif self._bytes is not None:
            self._bytes.release()

    def read(self, info: zipfile.ZipInfo, bound: int) -> bytes:
        """Return a member's bytes, at most ``bound`` and one more, so that the caller sees that
        there are more.
        """
        if self._bytes is None or info.compress_type not in (
            zipfile.ZIP_STORED,
            zipfile.ZIP_DEFLATED,
        ):
            with self._archive.open(info) as handle:
                return handle.read(bound + 1)
        # Views are let go of at once, also where something is raised: a traceback that held one
        # would keep the archive from being closed.
        with self._packed(info) as packed:
            if info.compress_type == zipfile.ZIP_STORED:
                data = packed[: bound + 1].tobytes()
            else:
                inflater = zlib.decompressobj(-zlib.MAX_WBITS)
                data = inflater.decompress(packed, bound + 1)
                if len(data) <= bound and not inflater.eof:
                    raise zipfile.BadZipFile(f"{info.filename} is cut short")
        if len(data) <= bound and (len(data) != info.file_size or zlib.crc32(data) != info.CRC):
            raise zipfile.BadZipFile(f"{info.filename} is damaged: its checksum is another")
        return data

    def _packed(self, info: zipfile.ZipInfo) -> memoryview:
        """Return a member's packed bytes, after its own header was compared with the directory."""
        with memoryview(self._bytes) as view:  # type: ignore[arg-type]
            start = info.header_offset
            fields = _LOCAL.unpack(view[start : start + _LOCAL.size].tobytes())
            name_at = start + _LOCAL.size
            name = view[name_at : name_at + fields[9]].tobytes()
            if (
                fields[0] != _SIGNATURE
                or name.decode("utf-8" if fields[2] & 0x800 else "cp437") != info.orig_filename
            ):
                raise zipfile.BadZipFile(f"{info.filename} begins with another member's header")
            begin = name_at + fields[9] + fields[10]
            if begin + info.compress_size > len(view):
                raise zipfile.BadZipFile(f"{info.filename} is cut short")
            return view[begin : begin + info.compress_size]


def _mapped(opened: IO[bytes]) -> mmap.mmap | memoryview | None:
    """Return all bytes without reading them: mapped from a file.

    None where the source is neither file nor memory.
    """
    if hasattr(opened, "getbuffer"):
        return memoryview(opened.getbuffer())
    try:
        return mmap.mmap(opened.fileno(), 0, access=mmap.ACCESS_READ)
    except (OSError, ValueError, AttributeError):
        return None
