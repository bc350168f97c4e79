"""A wide CSV, one row a learner and one column an item, read as a layout describes it."""

from __future__ import annotations

from collections.abc import Sequence

from vennpair.core.reconcile.files.builder import TableBuilder
from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.files.layout import Layout
from vennpair.core.reconcile.files.text import decode, rows
from vennpair.core.reconcile.tables import Table

Lines = dict[int, list[str]]


def read_wide(data: bytes, file: str, layout: Layout, *, places: bool = False) -> Table:
    """Read a wide table. Raises TableError with the place and the remedy."""
    lines = dict(rows(decode(data, file, layout.encoding), file, layout.separator))
    header = [field.strip() for field in _needed(lines, layout.header, file, "header")]
    named = {
        name: _place(header, name, file, layout.header)
        for name in (layout.id, layout.email, *layout.name, *layout.columns)
        if name
    }
    items = _items(header, named, layout)
    points = _needed(lines, layout.points, file, "points") if layout.points else []
    builder = TableBuilder(file, places=places)
    positions = {
        place: _add_item(
            builder, header[place], points[place] if place < len(points) else "", layout
        )
        for place in items
    }
    for line, fields in lines.items():
        if line < layout.first:
            continue
        if len(fields) != len(header):
            raise TableError(
                "short_row",
                file,
                line,
                f"Line {line} of {file} has {len(fields)} fields; the header has {len(header)}.",
                "Put a field that holds the separator in quotation marks, and keep empty fields.",
            )
        number, email = (fields[named[name]] if name else "" for name in (layout.id, layout.email))
        learner = builder.learner(
            number, email, " ".join(fields[named[name]].strip() for name in layout.name)
        )
        for place, item in positions.items():
            builder.score(learner, item, _number(fields[place], layout), line, place)
    return builder.finish()


def _needed(lines: Lines, line: int, file: str, what: str) -> list[str]:
    if line not in lines:
        raise TableError(
            "missing_header",
            file,
            line,
            f"{file} has nothing in line {line}, where the layout says that its {what} is.",
            "Correct the line number in the layout.",
        )
    return lines[line]


def _place(header: Sequence[str], name: str, file: str, line: int) -> int:
    if list(header).count(name) != 1:
        times = "no column" if name not in header else "more than one column"
        raise TableError(
            "missing_header",
            file,
            line,
            f"{file} has {times} called '{name}', which the layout names.",
            "Write the column's title in the layout exactly as the file has it.",
        )
    return list(header).index(name)


def _items(header: Sequence[str], places: dict[str, int], layout: Layout) -> list[int]:
    """Return the places of the items: those named, else all that are neither the learner's nor left
    out.
    """
    if layout.columns:
        return [places[name] for name in layout.columns]
    taken = {layout.id, layout.email, *layout.name, *layout.leave_out, ""}
    return [place for place, name in enumerate(header) if name not in taken]


def _add_item(builder: TableBuilder, title: str, points: str, layout: Layout) -> int:
    if layout.points_pattern and (match := layout.points_pattern.search(title)):
        points = points or match.group(1)
        title = (title[: match.start()] + title[match.end() :]).strip()
    position = builder.item(
        f"{len(builder.table.items)}",
        title,
        _number(points, layout),
        layout.points or layout.header,
    )
    builder.table.items[position].rounds = layout.rounding(title)
    return position


def _number(text: str, layout: Layout) -> str:
    stripped = text.strip()
    if stripped in layout.blank:
        return ""
    if layout.decimal == ",":
        # A point is then a thousands mark, which is never guessed at: it stays, and is refused.
        return (
            stripped.replace(",", ".")
            if "." not in stripped
            else f"{stripped} with a thousands mark"
        )
    return stripped
