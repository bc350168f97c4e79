"""Write a gradebook file back with only the cells changed that are to change, in the layout it came
in.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.files.layout import Layout
from vennpair.core.reconcile.files.spans import Place, decoded, replaced
from vennpair.core.reconcile.files.tidy import columns_in_order, is_tidy
from vennpair.core.reconcile.numbers import (
    plain,
    plain_fraction,
    rounded,
    shortest,
    written_decimals,
)
from vennpair.core.reconcile.tables import Cell, Table, TableComparison

TAKEN = ("unsent", "differ", "gradebook_only")


@dataclass(frozen=True, slots=True)
class Changed:
    """One cell that is written: whose, which column, what was there and what is there now."""

    learner: str
    column: str
    before: str
    after: str


def write_back(
    data: bytes,
    file: str,
    gradebook: Table,
    result: TableComparison,
    kinds: Collection[str],
    layout: Layout | None = None,
) -> tuple[bytes, list[Changed]]:
    """Return the file's bytes with the cells of ``kinds`` brought to the publisher's scores, and
    what was changed.

    ``gradebook`` must have been read from ``data`` with its places. Raises TableError
    ``not_writable`` for a OneRoster set, ``encoding`` where the file's own encoding cannot write a
    value.
    """
    if data.startswith(b"PK"):
        why = f"{file} is a OneRoster set, which is not written back."
        remedy = "Export the gradebook as a CSV, and describe it with --layout."
        raise TableError("not_writable", file, None, why, remedy)
    tidy = layout is None or is_tidy(data)
    separator, mark = (",", ".") if tidy or layout is None else (layout.separator, layout.decimal)
    position = {id(item): number for number, item in enumerate(gradebook.items)}
    changes: dict[Place, str] = {}
    appended: list[Cell] = []
    done = []
    for cell in result.cells:
        if cell.kind not in kinds:
            continue
        after = value_for(cell).replace(".", mark)
        place = gradebook.places.get((cell.j, position[id(cell.column)]))
        if place is None:
            appended.append(cell)
        else:
            changes[place] = after
        before = "" if cell.gradebook is None else plain(cell.gradebook)
        who = cell.learner.name or cell.learner.email or cell.learner.id
        done.append(Changed(who, cell.column.title, before, after))
    source = decoded(data, "" if tidy or layout is None else layout.encoding)
    text = replaced(source.text, separator, changes)
    if appended and tidy:
        text = _append(text, gradebook, appended, source.text)
    try:
        return type(source)(text, source.encoding, source.mark).bytes(), done
    except UnicodeEncodeError as error:
        letter = error.object[error.start]
        why = f"{file} is written in {source.encoding}, which has no way to write '{letter}'."
        raise TableError("encoding", file, None, why, "Save it as UTF-8 first.") from error


def value_for(cell: Cell) -> str:
    """Return what is written: the publisher's score in the column's points, with as many decimals
    as the column writes.

    A column of whole numbers that does not round gets the exact value, as nothing else would agree;
    an empty text empties the cell.
    """
    if cell.scaled is None:
        return ""
    places = written_decimals(cell.column.scores.values())
    if places or cell.column.rounds:
        return shortest(rounded(cell.scaled, places))
    return plain_fraction(cell.scaled)


def _append(text: str, gradebook: Table, cells: list[Cell], original: str) -> str:
    """Add rows for cells that a tidy file has no row for, in the order of its own columns."""
    end = "\r\n" if "\r\n" in original else "\n"
    names = columns_in_order(original)
    rows = []
    for cell in cells:
        who = gradebook.learners[cell.j]
        points = "" if cell.column.points is None else plain(cell.column.points)
        values = {
            "learner_id": who.id,
            "learner_email": who.email,
            "learner_name": who.name,
            "item": cell.column.title,
            "score": value_for(cell),
            "points": points,
            "at": "",
        }
        rows.append(",".join(_field(values.get(name, "")) for name in names))
    return text + ("" if text.endswith(("\n", "\r")) else end) + "".join(row + end for row in rows)


def _field(value: str) -> str:
    return (
        '"' + value.replace('"', '""') + '"' if any(mark in value for mark in ',"\r\n') else value
    )
