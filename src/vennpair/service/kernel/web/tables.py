"""A table of scores that came with a request, read by the rules of files (CONTRACTS), or refused
with file, line and remedy.
"""

from __future__ import annotations

from vennpair.core.reconcile.files import Layout, TableError, read_layout, read_table
from vennpair.core.reconcile.tables import Table
from vennpair.service.kernel.errors import Refused

LARGEST = 20_000_000


def read_upload(
    name: str, data: bytes, layout: str = "", class_id: str = "", *, places: bool = False
) -> Table:
    """Return the table: a tidy CSV, a OneRoster 1.2 set, or a wide table with its layout.

    Raises Refused.
    """
    require_fitting(data)
    parsed = layout_of(layout)
    try:
        return read_table(data, name, class_id, parsed, places=places)
    except TableError as error:
        raise refused_table(error) from error


def layout_of(text: str) -> Layout | None:
    """Return a layout from its text, None where there is none. Raises Refused."""
    try:
        return read_layout(text, "the layout") if text.strip() else None
    except TableError as error:
        raise refused_table(error) from error


def require_fitting(data: bytes) -> None:
    """Let pass what is not too large. Raises Refused ``too_large``."""
    if len(data) > LARGEST:
        raise Refused(
            "too_large",
            f"The file is larger than {LARGEST:,} bytes.",
            "Export one class at a time.",
            413,
        )


def refused_table(error: TableError) -> Refused:
    """Return what a file's error becomes in an answer.

    File and line are named in it, and are fields of it too.
    """
    place = (
        f" ({error.file}{f', line {error.line}' if error.line else ''})"
        if error.file and error.file not in error.message
        else ""
    )
    return Refused(
        error.code, f"{error.message}{place}", error.remedy, 422, file=error.file, line=error.line
    )
