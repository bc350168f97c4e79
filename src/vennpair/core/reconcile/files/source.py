"""Tells what kind of file it is and reads it."""

from __future__ import annotations

from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.files.layout import Layout
from vennpair.core.reconcile.files.oneroster import read_oneroster
from vennpair.core.reconcile.files.tidy import is_tidy, read_tidy
from vennpair.core.reconcile.files.wide import read_wide
from vennpair.core.reconcile.tables import Table

LARGEST_FILE = 300_000_000


def read_table(
    data: bytes,
    file: str,
    class_id: str = "",
    layout: Layout | None = None,
    *,
    places: bool = False,
) -> Table:
    """Read a table of scores from a file's bytes; ``file`` is the name that errors show.

    A zip is a OneRoster 1.2 set, a file with the tidy header a tidy CSV, and any other is read by
    the layout where there is one. ``places`` says to remember where each score is, to write the
    file back. Raises TableError.
    """
    if len(data) > LARGEST_FILE:
        raise TableError(
            "too_large",
            file,
            None,
            f"{file} is larger than {LARGEST_FILE:,} bytes.",
            "Export one class at a time.",
        )
    if data.startswith(b"PK"):
        return read_oneroster(data, file, class_id)
    if layout is not None and not is_tidy(data):
        return read_wide(data, file, layout, places=places)
    return read_tidy(data, file, places=places)
