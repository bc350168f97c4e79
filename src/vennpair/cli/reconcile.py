"""Comparing: a pairing through the service, or two files without one."""

from __future__ import annotations

import argparse
from collections import Counter
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, TypeVar

from vennpair.cli.choose import choose_pairing
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, UNREADABLE, USAGE, Stop
from vennpair.cli.output import LEVEL_STYLES, Output
from vennpair.cli.session import connect
from vennpair.client.types import Finding
from vennpair.core.reconcile.files import TableError, read_layout, read_table
from vennpair.core.reconcile.levels import level_of
from vennpair.core.reconcile.table_report import table_report
from vennpair.core.reconcile.tables import compare_tables

CROWD = 4
T = TypeVar("T")


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    reconcile = commands.add_parser(
        "reconcile",
        help="compare publisher and gradebook, and say why they differ",
        description="With a shell: compare its pairing now. With --publisher and --gradebook: compare two files, without a service.",
    )
    reconcile.add_argument("shell", nargs="?", help="label, title or id of the paired shell")
    reconcile.add_argument("--publisher", type=Path, metavar="FILE", help="tidy CSV or OneRoster 1.2 zip")
    reconcile.add_argument("--gradebook", type=Path, metavar="FILE", help="tidy CSV or OneRoster 1.2 zip")
    reconcile.add_argument("--layout", type=Path, metavar="FILE", help="how to read a wide table (docs/layouts.md)")
    reconcile.add_argument("--class", dest="class_id", default="", metavar="ID", help="which class of a OneRoster set")
    reconcile.add_argument("--all", action="store_true", help="on a terminal, list every learner of a column that differs for one cause")
    reconcile.add_argument("--fail-on-differences", action="store_true", help="exit 1 where any cell does not agree")
    reconcile.set_defaults(run=run_reconcile)


def run_reconcile(args: argparse.Namespace, out: Output) -> int:
    """Compare."""
    files = args.publisher is not None, args.gradebook is not None
    if all(files) and not args.shell:
        return _compare_files(args, out)
    if any(files) or not args.shell:
        raise Stop(USAGE, "what_to_compare", "Say what to compare.", "Name a shell, or both --publisher FILE and --gradebook FILE.")
    return _compare_pairing(args, out)


def _compare_files(args: argparse.Namespace, out: Output) -> int:
    layout = _parsed(args.layout, lambda data: read_layout(data.decode(), args.layout.name)) if args.layout else None
    publisher, gradebook = (_parsed(path, lambda data, path=path: read_table(data, path.name, args.class_id, layout)) for path in (args.publisher, args.gradebook))
    result = compare_tables(publisher, gradebook)
    document = table_report(result)
    if out.as_json:
        out.document(document)
    else:
        _show_files(document, out)
    differing = document["summary"]["cells"] - document["summary"]["agree"]
    return FINDINGS if args.fail_on_differences and differing else DONE


def _parsed(path: Path, read: Callable[[bytes], T]) -> T:
    """Read a file and make something of it; what cannot be read or used ends the command."""
    try:
        return read(path.read_bytes())
    except UnicodeDecodeError as error:
        raise Stop(UNREADABLE, "encoding", f"{path.name} is not UTF-8.", "Save it as UTF-8.", file=path.name, line=None) from error
    except OSError as error:
        raise Stop(UNREADABLE, "unreadable", f"{path} cannot be read: {error.strerror or error}.", "Check the name and your rights to it.", file=path.name, line=None) from error
    except TableError as error:
        raise Stop(UNREADABLE, error.code, error.message, error.remedy, file=error.file, line=error.line) from error


def _show_files(document: dict[str, Any], out: Output) -> None:
    summary = document["summary"]
    out.line(f"{summary['learners']} learners and {summary['columns']} columns matched; of {summary['cells']} scores {summary['agree']} agree.")
    rows = [(cell["kind"], _who(cell["learner"]), cell["item"], cell["publisher"]["score"], cell["gradebook"]["score"], cell["scaled"]) for cell in document["cells"]]
    out.table(("finding", "learner", "item", "publisher", "gradebook", "as the column would show it"), rows, styles=[LEVEL_STYLES[level_of(row[0])] for row in rows], empty="Every score agrees.")
    columns = [(", ".join(row["findings"]), row["item"] or row["column"], row["publisher_points"], row["gradebook_points"]) for row in document["columns"] if row["findings"]]
    if columns:
        out.table(("finding", "column", "publisher", "gradebook"), columns)
    learners = [(row["kind"], _who(row["learner"]), "; ".join(f"{_who(each)} ({each['why']})" for each in row["candidates"])) for row in document["learners"]]
    if learners:
        out.table(("finding", "learner", "perhaps"), learners)


def _who(learner: dict[str, Any]) -> str:
    return str(learner["name"] or learner["email"] or learner["id"] or "nobody named")


def _compare_pairing(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        comparison = venn.compare(pairing)
        with out.progress("Comparing") as follow:
            venn.wait(comparison["job"], follow)
        comparison = venn.comparison(pairing, comparison["id"])
        findings = list(venn.findings(pairing, comparison["id"]))
    summary = comparison["summary"] or {"kinds": {}, "cells": 0, "learners": 0, "columns": 0}
    if out.as_json:
        out.document({"id": comparison["id"], "at": comparison["at"], "summary": summary, "venn": comparison["venn"], "findings": findings})
    agree = summary["kinds"].get("agree", 0)
    out.line(f"{summary['learners']} learners and {summary['columns']} columns matched; of {summary['cells']} scores {agree} agree.")
    counted = Counter(each["kind"] for each in findings)
    if counted:
        out.line("Findings: " + ", ".join(f"{count} {kind}" for kind, count in counted.most_common()))
    rows, levels = _rows(findings, out.terminal and not args.all)
    out.table(("finding", "learner", "item", "publisher", "gradebook", "sent", "cause"), rows, styles=[LEVEL_STYLES[level] for level in levels], empty="Both sides agree in everything.")
    return FINDINGS if args.fail_on_differences and summary["cells"] != agree else DONE


def _rows(findings: Sequence[Finding], shortly: bool) -> tuple[list[tuple[str | None, ...]], list[str]]:
    """Return table rows and their levels; ``shortly``, a column that differs for many learners in one way is one row."""
    many = Counter((each["kind"], each["item"]) for each in findings if each["scope"] == "cell")
    rows: list[tuple[str | None, ...]] = []
    levels: list[str] = []
    shown: Counter[tuple[str, str]] = Counter()
    for each in findings:
        key = (each["kind"], each["item"])
        shown[key] += 1
        crowd = shortly and many[key] > CROWD
        if crowd and shown[key] > 1:
            continue
        learner = f"{many[key]} learners" if crowd else each["learner"]
        values = (None, None, None) if crowd else (each["publisher"], each["gradebook"], each["sent"])
        rows.append((each["kind"], learner, each["item"], *values, f"For example {each['learner']}: {each['cause']} (--all lists each)" if crowd else each["cause"]))
        levels.append(each["level"])
    return rows, levels
