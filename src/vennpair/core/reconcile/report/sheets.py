"""A report as CSV and as XLSX.

Whatever could be taken for a formula is disarmed: names and titles come from outside.
"""

from __future__ import annotations

import csv
import io
import re
from dataclasses import astuple
from decimal import Decimal
from typing import Any

from openpyxl import Workbook
from openpyxl.styles import Alignment, Font, PatternFill
from openpyxl.utils import get_column_letter
from openpyxl.worksheet.worksheet import Worksheet

from vennpair.core.reconcile.report.disarming import NUMBER, disarmed
from vennpair.core.reconcile.report.document import COLUMNS, Report

NUMBERS = {"publisher", "publisher_points", "gradebook", "gradebook_points", "sent"}
FILLS = {"error": "F9DBE4", "warning": "F7E3CC", "note": "E2DCF1"}
WIDTHS = {"cause": 80, "learner": 26, "email": 30, "item": 30}
_UNPRINTABLE = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f]")


def as_csv(report: Report) -> bytes:
    """Return the findings as CSV: UTF-8 with its mark, as spreadsheets need it to know the
    encoding.
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    writer.writerows([disarmed(value) for value in astuple(row)] for row in report.rows)
    return out.getvalue().encode("utf-8-sig")


def as_xlsx(report: Report) -> bytes:
    """Return a workbook: a summary, the findings, and the matrix of the class."""
    book = Workbook()
    first = book.active
    if not isinstance(first, Worksheet):
        raise TypeError("a new workbook begins with a worksheet")
    _summary(first, report)
    _findings(book.create_sheet("Findings"), report)
    _matrix(book.create_sheet("The class"), report)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _put(sheet: Worksheet, row: int, column: int, value: Any, *, bold: bool = False) -> Any:
    """Write a value; a text never becomes a formula."""
    cell = sheet.cell(row, column)
    if isinstance(value, str):
        cell.value = _UNPRINTABLE.sub("", disarmed(value))
        cell.data_type = "s"
    else:
        cell.value = value
    if bold:
        cell.font = Font(bold=True)
    return cell


def _summary(sheet: Worksheet, report: Report) -> None:
    sheet.title = "Summary"
    lines: list[tuple[str, Any]] = [
        ("Comparison", report.title),
        ("Publisher", report.left),
        ("Gradebook", report.right),
        ("Compared", report.compared or "from files"),
    ]
    lines += [(name.capitalize(), count) for name, count in report.counts.items()]
    lines += [("Read from", source) for source in report.sources]
    for row, (name, value) in enumerate(lines, start=1):
        _put(sheet, row, 1, name, bold=True)
        _put(sheet, row, 2, value)
    sheet.column_dimensions["A"].width, sheet.column_dimensions["B"].width = 16, 90


def _findings(sheet: Worksheet, report: Report) -> None:
    for place, name in enumerate(COLUMNS, start=1):
        _put(sheet, 1, place, name.replace("_", " "), bold=True)
        sheet.column_dimensions[get_column_letter(place)].width = WIDTHS.get(name, 14)
    for number, row in enumerate(report.rows, start=2):
        for place, (name, value) in enumerate(zip(COLUMNS, astuple(row), strict=True), start=1):
            cell = _put(
                sheet,
                number,
                place,
                Decimal(value) if name in NUMBERS and NUMBER.fullmatch(value) else value,
            )
            if name == "level":
                cell.fill = PatternFill("solid", start_color=FILLS[row.level])
            if name == "cause":
                cell.alignment = Alignment(wrap_text=True, vertical="top")
    sheet.freeze_panes = "A2"
    sheet.auto_filter.ref = sheet.dimensions


def _matrix(sheet: Worksheet, report: Report) -> None:
    _put(sheet, 1, 1, "learner", bold=True)
    for place, item in enumerate(report.items, start=2):
        _put(sheet, 1, place, item, bold=True)
    for number, (learner, kinds) in enumerate(
        zip(report.learners, report.kinds, strict=True), start=2
    ):
        _put(sheet, number, 1, learner)
        for place, kind in enumerate(kinds, start=2):
            if kind is not None:
                cell = _put(sheet, number, place, kind)
                if kind != "agree":
                    cell.fill = PatternFill("solid", start_color=FILLS["error"])
    sheet.freeze_panes = "B2"
