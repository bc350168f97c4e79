"""What every reader of a zip archive must guard against, in one place."""

from __future__ import annotations

import lzma
import re
import stat
import struct
import zipfile
import zlib

# All that Python's zip reader raises on archives that are damaged, cut short or made to hurt.
BROKEN = (
    zipfile.BadZipFile,
    zlib.error,
    lzma.LZMAError,
    struct.error,
    EOFError,
    OSError,
    NotImplementedError,
    RuntimeError,
    ValueError,
    OverflowError,
)
_CONTROL = re.compile(r"[\x00-\x1f\x7f]")


def leads_out(info: zipfile.ZipInfo, name: str) -> bool:
    """Say whether a member's decoded name, with forward slashes, leads out of the archive or hides
    something.
    """
    return (
        bool(_CONTROL.search(info.orig_filename))
        or not name
        or name.startswith("/")
        or ".." in name.split("/")
        or bool(re.match(r"[A-Za-z]:", name))
        or is_link(info)
    )


def is_link(info: zipfile.ZipInfo) -> bool:
    """Say whether a member is a symbolic link."""
    return stat.S_ISLNK(info.external_attr >> 16)


def shown(name: str) -> str:
    """Return a name that is safe to show."""
    return _CONTROL.sub("?", name)
