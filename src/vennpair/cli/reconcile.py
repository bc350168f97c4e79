"""Comparing: a pairing through the service, or two files without one."""

from __future__ import annotations

import argparse
import time
from collections import Counter
from collections.abc import Sequence
from pathlib import Path
from shlex import quote

from vennpair.cli.choose import choose_pairing
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, REFUSED, UNREADABLE, USAGE, Stop
from vennpair.cli.output import LEVEL_STYLES, Follow, Output
from vennpair.cli.reconcile_files import compare_files, layout_text, save_reports, suggest
from vennpair.cli.session import connect
from vennpair.cli.several import for_several
from vennpair.client import VennPair
from vennpair.client.schema import Agreement, Comparison, Finding, Pairing, Summary
from vennpair.core.counting import many
from vennpair.core.reconcile.report import Report, report_of_live

CROWD = 4
COMPARED = {"live", "paused"}
LOOK_SECONDS = 0.7


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    reconcile = commands.add_parser(
        "reconcile",
        help="compare publisher and gradebook, and say why they differ",
        description=(
            "With a shell: compare its pairing now, or with --gradebook what the publisher has"
            " against a file. With --publisher and --gradebook: compare two files, without a"
            " service."
        ),
    )
    reconcile.add_argument("shell", nargs="?", help="label, title or id of the paired shell")
    reconcile.add_argument(
        "--all", action="store_true", help="compare every live pairing that you may see"
    )
    reconcile.add_argument(
        "--each",
        action="store_true",
        help="on a terminal, list every learner of a column that differs for one cause",
    )
    reconcile.add_argument(
        "--report",
        type=Path,
        metavar="FILE",
        help="write a report too: .html (with the figures), .xlsx, .csv or .json",
    )
    reconcile.add_argument(
        "--plot",
        type=Path,
        metavar="FILE",
        help="draw the Venn and the class too: .png, .svg or .pdf",
    )
    reconcile.add_argument(
        "--fail-on-differences",
        action="store_true",
        help="exit 1 where any cell does not agree, or was not read",
    )
    _add_files(reconcile)
    for_several(reconcile, run_reconcile, every=False)


def _add_files(reconcile: argparse.ArgumentParser) -> None:
    files = reconcile.add_argument_group("two files, without a service")
    files.add_argument(
        "--publisher",
        type=Path,
        metavar="FILE",
        help="tidy CSV, OneRoster 1.2 zip, or a wide table with --layout",
    )
    files.add_argument("--gradebook", type=Path, metavar="FILE", help="the same of the gradebook")
    files.add_argument(
        "--layout", type=Path, metavar="FILE", help="how to read a wide table (docs/layouts.md)"
    )
    files.add_argument(
        "--suggest-layout",
        type=Path,
        metavar="FILE",
        help="look at a wide table and print a first layout for it",
    )
    files.add_argument(
        "--class", dest="class_id", default="", metavar="ID", help="which class of a OneRoster set"
    )
    files.add_argument(
        "--write",
        type=Path,
        metavar="FILE",
        help="write the gradebook file back with only the cells changed that are to change",
    )
    files.add_argument(
        "--take",
        action="append",
        choices=("unsent", "differ", "gradebook_only"),
        help=(
            "with --write: which cells get the publisher's score (default: unsent; may be repeated)"
        ),
    )
    files.add_argument(
        "--dry-run", action="store_true", help="with --write: say what would change, write nothing"
    )


def run_reconcile(args: argparse.Namespace, out: Output) -> int:
    """Compare."""
    if args.suggest_layout is not None:
        return suggest(args, out)
    if args.also and (args.report is not None or args.plot is not None):
        raise _report_of_one()
    files = args.publisher is not None, args.gradebook is not None
    if all(files) and not args.shell:
        return compare_files(args, out)
    if args.all and not args.shell and not any(files):
        if args.report is not None or args.plot is not None:
            raise _report_of_one()
        return compare_all(args, out)
    if files[0] and args.shell:
        raise Stop(
            USAGE,
            "what_to_compare",
            "A publisher's file is compared through the ledger.",
            f"Take it in with: vennpair relay upload {quote(args.shell)} {args.publisher}; then"
            " compare.",
        )
    if files[0] or not args.shell or args.write:
        raise Stop(
            USAGE,
            "what_to_compare",
            "Say what to compare.",
            "Name a shell, or --all, or both --publisher FILE and --gradebook FILE.",
        )
    return _compare_pairing(args, out)


def _report_of_one() -> Stop:
    return Stop(
        USAGE,
        "which_report",
        "A report or a plot is of one pairing.",
        "Name one shell, without --all and --also: vennpair reconcile SHELL --report FILE",
    )


def _compare_pairing(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        comparison = _begun(args, venn, pairing)
        with out.progress("Comparing") as follow:
            venn.wait(comparison["job"], follow)
        comparison = venn.comparison(pairing, comparison["id"])
        findings = list(venn.findings(pairing, comparison["id"]))
        if args.report is not None or args.plot is not None:
            about = venn.pairing(pairing)
            save_reports(args, _report(comparison, findings, about), out)
    summary = comparison["summary"]
    if summary is None:
        raise Stop(
            REFUSED,
            "not_compared",
            "The comparison ended without a result.",
            "Compare again with: vennpair reconcile SHELL",
        )
    if out.as_json:
        facts = {name: comparison[name] for name in ("id", "at", "summary", "venn")}
        out.document(facts | {"findings": findings})
    _say_found(summary, findings, out, each=args.each)
    unread = summary["open"].get("unread", 0)  # what was not read cannot be said to agree
    differs = summary["cells"] != summary["kinds"].get("agree", 0) or unread > 0
    wrong = any(each["level"] == "error" and not each["kept"] for each in findings)
    return FINDINGS if wrong or (args.fail_on_differences and differs) else DONE


def _report(comparison: Comparison, findings: list[Finding], about: Pairing) -> Report:
    shell, course = about["shell"], about["course"]
    title = f"{shell['label'] or shell['title']}: {course['title']}"
    return report_of_live(
        comparison,
        findings,
        title,
        course["publisher"],
        shell["platform"],
        shell["timezone"] or "UTC",
    )


def _say_found(summary: Summary, findings: list[Finding], out: Output, *, each: bool) -> None:
    """Say in a sentence how far both agree, then list what is open."""
    out.line(
        f"{many(summary['learners'], 'learner')} and {many(summary['columns'], 'column')} matched;"
        f" of {many(summary['cells'], 'score')} {summary['kinds'].get('agree', 0)} agree."
    )
    open_ones = [finding for finding in findings if not finding["kept"]]
    counted = Counter(finding["kind"] for finding in open_ones).most_common()
    said = [f"{count} {kind}" for kind, count in counted]
    if kept := len(findings) - len(open_ones):
        said.append(f"{kept} kept as they are")
    if said:
        out.line(f"Findings: {', '.join(said)}")
    rows, levels = _rows(open_ones, out.terminal and not each)
    out.table(
        ("finding", "learner", "item", "publisher", "gradebook", "sent", "cause"),
        rows,
        styles=[LEVEL_STYLES.get(level, "") for level in levels],
        empty="Nothing is open.",
    )


def _begun(args: argparse.Namespace, venn: VennPair, pairing: str) -> Comparison:
    try:
        return venn.compare(
            pairing, gradebook=args.gradebook, layout=layout_text(args), class_id=args.class_id
        )
    except OSError as error:
        raise Stop(
            UNREADABLE,
            "unreadable",
            f"{args.gradebook} cannot be read: {error.strerror or error}.",
            "Check the name and your rights to it.",
        ) from error


def _rows(
    findings: Sequence[Finding], shortly: bool
) -> tuple[list[tuple[str | None, ...]], list[str]]:
    """Return table rows and their levels.

    ``shortly``, a column that differs for many learners in one way is one row.
    """
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
        values = (None, None, None) if crowd else _values(each)
        rows.append(
            (
                each["kind"],
                learner,
                each["item"],
                *values,
                (
                    f"For example {each['learner']}: {each['cause']} (--each lists them)"
                    if crowd
                    else each["cause"]
                ),
            )
        )
        levels.append(each["level"])
    return rows, levels


def _values(each: Finding) -> tuple[str | None, str | None, str | None]:
    """Return both sides' scores, with their points where those are not the same."""
    left, right = each["publisher"], each["gradebook"]
    if (
        each["scope"] == "cell"
        and each["publisher_points"]
        and each["gradebook_points"]
        and each["publisher_points"] != each["gradebook_points"]
    ):
        left = left and f"{left} of {each['publisher_points']}"
        right = right and f"{right} of {each['gradebook_points']}"
    return left, right, each["sent"]


def compare_all(args: argparse.Namespace, out: Output) -> int:
    """Compare every live pairing; the service takes a few of one platform at a time."""
    with connect() as venn:
        began = [row["pairing"] for row in venn.agreement() if row["state"] in COMPARED]
        venn.compare_all()
        with out.progress("Comparing") as follow:
            rows = _followed(venn, set(began), follow)
    if out.as_json:
        out.document({"pairings": rows})
    shown = [
        (
            row["shell"],
            row["trouble"] or row["standing"],
            _share(row),
            row["urgent"],
            (row["oldest"] or "")[:10],
            ", ".join(f"{count} {kind}" for kind, count in row["open"].items()),
        )
        for row in rows
    ]
    out.table(
        ("shell", "came of it", "agree", "open", "oldest", "by cause"),
        shown,
        styles=[
            "bold red" if row["trouble"] else ("yellow" if row["urgent"] else "") for row in rows
        ],
        empty="No pairing is live yet.",
    )
    differing = any(row["cells"] != row["agree"] for row in rows)
    return (
        FINDINGS
        if any(row["trouble"] for row in rows) or (args.fail_on_differences and differing)
        else DONE
    )


def _followed(venn: VennPair, wanted: set[str], follow: Follow) -> list[Agreement]:
    """Look until every wanted pairing was compared or failed."""
    while True:
        rows = [row for row in venn.agreement() if row["pairing"] in wanted]
        busy = [row for row in rows if row["standing"] in {"waiting", "comparing"}]
        follow(
            {
                "done": len(rows) - len(busy),
                "total": len(rows),
                "message": ", ".join(row["shell"] for row in busy[:2]),
            }
        )
        if not busy:
            return rows
        time.sleep(LOOK_SECONDS)


def _share(row: Agreement) -> str:
    return f"{row['agree']} of {row['cells']}" if row["cells"] else ""
