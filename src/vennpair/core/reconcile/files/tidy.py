"""The tidy CSV: one row for each learner and item."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from operator import itemgetter

from vennpair.core.reconcile.files.builder import Repeated, TableBuilder, Tidy
from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.files.text import decode, rows
from vennpair.core.reconcile.tables import Table

ITEM = 3
HEADER = ("learner_id", "learner_email", "learner_name", "item", "score", "points", "at")


def read_tidy(data: bytes, file: str, *, places: bool = False) -> Table:
    """Read a tidy table. Raises TableError with the place and the remedy."""
    text = decode(data, file)
    try:
        return _read(text, file, places=places, careful=places)
    except Repeated:
        return _read(text, file, places=places, careful=True)


def _read(text: str, file: str, *, places: bool, careful: bool) -> Table:
    lines = rows(text, file)
    first_line, header = next(lines)
    columns = _columns(header, first_line, file)
    builder = TableBuilder(file, careful, places)
    builder.rows(
        _checked(lines, len(header), itemgetter(*(columns[name] for name in HEADER)), file),
        columns["score"],
    )
    return builder.finish()


def _checked(
    lines: Iterator[tuple[int, list[str]]],
    width: int,
    wanted: Callable[[list[str]], Tidy],
    file: str,
) -> Iterator[tuple[int, Tidy]]:
    for line, fields in lines:
        if len(fields) != width:
            message = f"Line {line} of {file} has {len(fields)} fields; the header has {width}."
            raise TableError(
                "short_row",
                file,
                line,
                message,
                "Put a field that holds a comma in quotation marks, and keep empty fields.",
            )
        row = wanted(fields)
        if not row[ITEM].strip():
            raise TableError(
                "short_row",
                file,
                line,
                f"Line {line} of {file} names no item.",
                "Fill in the column 'item'.",
            )
        yield line, row


def is_tidy(data: bytes) -> bool:
    """Say whether a file begins with the tidy header, in UTF-8 or UTF-16."""
    head = data[:400].replace(b"\0", b"").lower()
    return b"learner_id," in head and b",item,score" in head


def columns_in_order(text: str) -> list[str]:
    """Return the names of a tidy text's columns in their own order."""
    _, header = next(rows(text, ""))
    return [name.strip().lower() for name in header]


def _columns(header: list[str], line: int, file: str) -> dict[str, int]:
    names = [name.strip().lower() for name in header]
    if len(names) == 1:
        for mark, word in ((";", "semicolons"), ("\t", "tabs"), ("|", "vertical bars")):
            if mark in names[0]:
                raise TableError(
                    "separator",
                    file,
                    line,
                    f"{file} is separated by {word}, not commas.",
                    "Save it as CSV with commas, or describe it with --layout.",
                )
    missing = [name for name in HEADER if names.count(name) != 1]
    if missing:
        message = (
            f"The first line of {file} is not the header of a tidy table; these columns are missing"
            f" or there twice: {', '.join(missing)}."
        )
        remedy = f"Write the header {','.join(HEADER)}; describe a wide table with --layout."
        raise TableError("missing_header", file, line, message, remedy)
    return {name: names.index(name) for name in HEADER}
