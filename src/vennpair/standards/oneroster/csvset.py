"""The OneRoster 1.2 CSV set: a zip with a manifest and one table to a file (CSV binding, section 3
and 4).
"""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Mapping
from dataclasses import dataclass, field

from vennpair.standards.zips import BROKEN, leads_out, shown

MOST_MEMBERS = 1_000
MOST_BYTES = 500_000_000


class CsvSetError(Exception):
    """The set cannot be read. ``table`` and ``line`` say where; the line counts from 1."""

    def __init__(
        self, code: str, message: str, remedy: str, table: str = "", line: int | None = None
    ) -> None:
        super().__init__(message)
        self.code, self.message, self.remedy, self.table, self.line = (
            code,
            message,
            remedy,
            table,
            line,
        )


class Row:
    """One row of a table by column name, with the line it begins on."""

    __slots__ = ("_columns", "_fields", "line")

    def __init__(self, columns: Mapping[str, int], fields: list[str], line: int) -> None:
        self._columns, self._fields, self.line = columns, fields, line

    def __getitem__(self, name: str) -> str:
        return self._fields[self._columns[name]]

    def get(self, name: str) -> str:
        """Return a field, or an empty string where the table has no such column."""
        position = self._columns.get(name)
        return "" if position is None else self._fields[position]


@dataclass(slots=True)
class CsvSet:
    """The tables of a set by name, without ``.csv``."""

    tables: dict[str, list[Row]] = field(default_factory=dict)

    def has(self, table: str) -> bool:
        """Say whether the set brought this table."""
        return table in self.tables

    def live(self, table: str) -> list[Row]:
        """Return the rows that are not marked ``tobedeleted``."""
        return [
            row
            for row in self.tables.get(table, [])
            if row.get("status").strip().lower() != "tobedeleted"
        ]


USED = ("users", "lineItems", "results", "classes", "enrollments", "roles")


def read_csv_set(data: bytes, required: Mapping[str, tuple[str, ...]]) -> CsvSet:
    """Read a bulk set; ``required`` names the tables and columns that must be there.

    Raises CsvSetError with ``encoding`` (no readable zip), ``unsafe_path``, ``too_large``,
    ``missing_table``, ``delta_set``, ``missing_header``, ``short_row``.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            members = _members(archive)
            _check_manifest(archive, members)
            found = CsvSet()
            for table in USED:
                if f"{table}.csv" in members:
                    found.tables[table] = _table(
                        _read(archive, members[f"{table}.csv"]), table, required.get(table, ())
                    )
                elif table in required:
                    raise _missing(table)
            return found
    except BROKEN as error:
        raise CsvSetError(
            "encoding", f"The zip archive cannot be read: {error}.", "Download the export again."
        ) from error


def _members(archive: zipfile.ZipFile) -> dict[str, zipfile.ZipInfo]:
    infos = archive.infolist()
    if len(infos) > MOST_MEMBERS or sum(info.file_size for info in infos) > MOST_BYTES:
        raise CsvSetError(
            "too_large",
            f"The archive has more than {MOST_MEMBERS:,} members or unpacks to more than"
            f" {MOST_BYTES:,} bytes.",
            "Export one class at a time.",
        )
    for info in infos:
        name = info.filename.replace("\\", "/")
        if leads_out(info, name):
            raise CsvSetError(
                "unsafe_path",
                f"The member '{shown(name)}' leads out of the archive.",
                "Do not use this file; ask for a clean export.",
            )
    return {info.filename: info for info in infos if not info.is_dir()}


def _check_manifest(archive: zipfile.ZipFile, members: dict[str, zipfile.ZipInfo]) -> None:
    if "manifest.csv" not in members:
        raise _missing("manifest")
    rows = _table(_read(archive, members["manifest.csv"]), "manifest", ("propertyName", "value"))
    for row in rows:
        if row["propertyName"].startswith("file.") and row["value"].strip().lower() == "delta":
            message = (
                f"The set holds only what changed ({row['propertyName']} is delta), so it cannot be"
                " compared."
            )
            raise CsvSetError("delta_set", message, "Export a bulk set.", "manifest.csv", row.line)


def _read(archive: zipfile.ZipFile, info: zipfile.ZipInfo) -> str:
    data = archive.read(info)
    try:
        text = data.decode("utf-16" if data[:2] in {b"\xff\xfe", b"\xfe\xff"} else "utf-8-sig")
    except UnicodeDecodeError as error:
        raise CsvSetError(
            "encoding",
            f"{info.filename} is not UTF-8.",
            "Export the set again; OneRoster asks for UTF-8.",
            info.filename,
        ) from error
    return text


def _table(text: str, table: str, required: tuple[str, ...]) -> list[Row]:
    name = f"{table}.csv"
    reader = csv.reader(io.StringIO(text, newline=""), strict=True)
    rows: list[Row] = []
    columns: dict[str, int] | None = None
    line = 1
    try:
        for fields in reader:
            if columns is None:
                columns = {each.strip(): position for position, each in enumerate(fields)}
                if missing := [each for each in required if each not in columns]:
                    raise CsvSetError(
                        "missing_header",
                        f"{name} lacks the columns {', '.join(missing)}.",
                        "Export a OneRoster 1.2 set.",
                        name,
                        1,
                    )
            elif any(fields):
                if len(fields) != len(columns):
                    raise CsvSetError(
                        "short_row",
                        f"Line {line} of {name} has {len(fields)} fields; the header has"
                        f" {len(columns)}.",
                        "Export the set again.",
                        name,
                        line,
                    )
                rows.append(Row(columns, [each.strip() for each in fields], line))
            line = reader.line_num + 1
    except csv.Error as error:
        raise CsvSetError(
            "short_row",
            f"Line {line} of {name} is not quoted as CSV asks for: {error}.",
            "Export the set again.",
            name,
            line,
        ) from error
    if columns is None and required:
        raise CsvSetError(
            "missing_header",
            f"{name} is empty; it needs at least its header.",
            "Export the set again.",
            name,
            1,
        )
    return rows


def _missing(table: str) -> CsvSetError:
    return CsvSetError(
        "missing_table",
        f"The set has no {table}.csv at its top.",
        "Export a OneRoster 1.2 set with manifest, users, lineItems and results.",
        f"{table}.csv",
    )
