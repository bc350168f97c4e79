"""Comparing two files without a service: the comparison, a first layout, the gradebook written
back, and reports.
"""

from __future__ import annotations

import argparse
import json
import shutil
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any, TypeVar

from vennpair.cli.exits import DONE, FINDINGS, UNREADABLE, USAGE, Stop
from vennpair.cli.output import LEVEL_STYLES, Output
from vennpair.core.counting import many
from vennpair.core.reconcile.files import Layout, TableError, read_layout, read_table
from vennpair.core.reconcile.levels import level_of
from vennpair.core.reconcile.report import Report, report_of_tables
from vennpair.core.reconcile.table_report import table_report
from vennpair.core.reconcile.tables import Table, TableComparison, compare_tables

T = TypeVar("T")


def compare_files(args: argparse.Namespace, out: Output) -> int:
    """Compare two files; write the gradebook back and reports where that is asked for."""
    layout = (
        _parsed(args.layout, lambda data: read_layout(data.decode(), args.layout.name))
        if args.layout
        else None
    )
    publisher = _parsed(
        args.publisher, lambda data: read_table(data, args.publisher.name, args.class_id, layout)
    )
    source, gradebook = _parsed(
        args.gradebook,
        lambda data: (
            data,
            read_table(
                data, args.gradebook.name, args.class_id, layout, places=args.write is not None
            ),
        ),
    )
    result = compare_tables(
        publisher, gradebook, grid=args.report is not None or args.plot is not None
    )
    document = table_report(result)
    if args.write is not None:
        written = _write_back(args, source, gradebook, result, layout, out)
        document = document | {"written": written} if args.format == "json" else document
    if result.grid is not None:
        save_reports(
            args, report_of_tables(result, document, args.publisher.name, args.gradebook.name), out
        )
    if out.as_json:
        out.document(document)
    else:
        _show(document, out)
    differing = document["summary"]["cells"] - document["summary"]["agree"]
    return FINDINGS if args.fail_on_differences and differing else DONE


def layout_text(args: argparse.Namespace) -> str:
    """Return the text of the layout that was named, empty where none was."""
    return _parsed(args.layout, bytes.decode) if args.layout else ""


def suggest(args: argparse.Namespace, out: Output) -> int:
    """Print a first layout of a wide table."""
    from vennpair.core.reconcile.files.suggest import suggest_layout

    found = _parsed(
        args.suggest_layout, lambda data: suggest_layout(data, args.suggest_layout.name)
    )
    if out.as_json:
        out.document({"layout": found.layout, "guesses": found.guesses})
        return DONE
    out.line(found.layout.rstrip("\n"))
    for guess in found.guesses:
        out.remark(f"Look at this: {guess}.")
    return DONE


def save_reports(args: argparse.Namespace, report: Report, out: Output) -> None:
    """Write what ``--report`` and ``--plot`` name."""
    if args.report is not None:
        _save(args.report, _writer(args.report)(report))
        out.line(f"{args.report} was written.")
    if args.plot is not None:
        from vennpair.cli.plots import plot

        plot(report, args.plot)
        out.line(f"{args.plot} was written.")


def _writer(target: Path) -> Callable[[Report], bytes]:
    # Each is loaded only where it is used: the comparison itself must start at once.
    from vennpair.core.reconcile.report.page import as_page

    form = target.suffix.lower()
    if form in {".html", ".htm"}:
        return as_page
    if form == ".json":
        return lambda report: json.dumps(report.as_json(), ensure_ascii=False, indent=1).encode()
    if form in {".csv", ".xlsx"}:
        try:
            from vennpair.core.reconcile.report.sheets import as_csv, as_xlsx
        except ImportError as error:
            raise Stop(
                USAGE,
                "no_sheets",
                "Spreadsheets need the package openpyxl.",
                "Install Venn Pair with its extra: vennpair[reports].",
            ) from error
        return as_csv if form == ".csv" else as_xlsx
    raise Stop(
        USAGE,
        "which_report",
        f"'{target.suffix or target.name}' is not a form of a report.",
        "Use a name that ends with .html, .xlsx, .csv or .json.",
    )


def _write_back(
    args: argparse.Namespace,
    source: bytes,
    gradebook: Table,
    result: TableComparison,
    layout: Layout | None,
    out: Output,
) -> list[dict[str, str]]:
    from vennpair.core.reconcile.files.write_back import write_back

    kinds = set(args.take or ["unsent"])
    try:
        data, changed = write_back(source, args.gradebook.name, gradebook, result, kinds, layout)
    except TableError as error:
        raise _refused(error) from error
    rows = [
        {"learner": each.learner, "column": each.column, "before": each.before, "after": each.after}
        for each in changed
    ]
    if not out.as_json:
        out.table(
            ("learner", "column", "now", "becomes"),
            [tuple(row.values()) for row in rows],
            empty="No cell is to be changed.",
        )
    if not args.dry_run:
        _save(args.write, data)
    if args.dry_run:
        out.line(f"{many(len(rows), 'cell')} would be changed; nothing was written.")
    else:
        changed_words = many(len(rows), "cell was", "cells were")
        out.line(f"{changed_words} changed in {args.write}; everything else is as it was.")
    return rows


def _save(target: Path, data: bytes) -> None:
    """Write a file whole or not at all: it may be the gradebook that was read."""
    there = target.resolve()
    waiting = there.with_name(f"{there.name}.part")
    try:
        if there.exists() and not there.is_file():  # a pipe or a terminal
            there.write_bytes(data)
            return
        waiting.write_bytes(data)
        if there.exists():
            shutil.copymode(there, waiting)
        waiting.replace(there)
    except OSError as error:
        with suppress(OSError):
            waiting.unlink()
        raise Stop(
            USAGE,
            "unwritable",
            f"{target} cannot be written: {error.strerror or error}.",
            "Choose another path.",
        ) from error


def _parsed(path: Path, read: Callable[[bytes], T]) -> T:
    """Read a file and make something of it; what cannot be read or used ends the command."""
    try:
        return read(path.read_bytes())
    except UnicodeDecodeError as error:
        raise Stop(
            UNREADABLE,
            "encoding",
            f"{path.name} is not UTF-8.",
            "Save it as UTF-8.",
            file=path.name,
            line=None,
        ) from error
    except OSError as error:
        raise Stop(
            UNREADABLE,
            "unreadable",
            f"{path} cannot be read: {error.strerror or error}.",
            "Check the name and your rights to it.",
            file=path.name,
            line=None,
        ) from error
    except TableError as error:
        raise _refused(error) from error


def _refused(error: TableError) -> Stop:
    return Stop(
        UNREADABLE, error.code, error.message, error.remedy, file=error.file, line=error.line
    )


def _show(document: dict[str, Any], out: Output) -> None:
    summary = document["summary"]
    out.line(
        f"{many(summary['learners'], 'learner')} and {many(summary['columns'], 'column')} matched;"
        f" of {many(summary['cells'], 'score')} {summary['agree']} agree."
    )
    rows = [
        (
            cell["kind"],
            _who(cell["learner"]),
            cell["item"],
            cell["publisher"]["score"],
            cell["gradebook"]["score"],
            cell["scaled"],
        )
        for cell in document["cells"]
    ]
    out.table(
        ("finding", "learner", "item", "publisher", "gradebook", "as the column would show it"),
        rows,
        styles=[LEVEL_STYLES[level_of(row[0])] for row in rows],
        empty="Every score agrees.",
    )
    columns = [
        (
            ", ".join(row["findings"]),
            row["item"] or row["column"],
            row["publisher_points"],
            row["gradebook_points"],
        )
        for row in document["columns"]
        if row["findings"]
    ]
    if columns:
        out.table(("finding", "column", "publisher", "gradebook"), columns)
    learners = [
        (
            row["kind"],
            _who(row["learner"]),
            "; ".join(f"{_who(each)} ({each['why']})" for each in row["candidates"]),
        )
        for row in document["learners"]
    ]
    if learners:
        out.table(("finding", "learner", "perhaps"), learners)


def _who(learner: dict[str, Any]) -> str:
    return str(learner["name"] or learner["email"] or learner["id"] or "nobody named")
