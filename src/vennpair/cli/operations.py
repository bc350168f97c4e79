"""Operations of all kinds: what ran, what waits, what failed and why; stop, retry, undo."""

from __future__ import annotations

import argparse
from typing import Any, cast

from vennpair.cli.choose import choose_by_id, choose_pairing
from vennpair.cli.clock import clock_of, course_clock
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import VennPair
from vennpair.client.schema import Job, Operation

STATES = (
    *("going", "proposed", "queued", "running", "waiting"),
    *("done", "failed", "stopped", "dismissed"),
)
AGAIN = {"failed", "stopped"}  # of a step: it is done again by a retry
SHOWN = 100


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    operations = commands.add_parser(
        "operations",
        help="list what was written to shells; show, follow, stop, retry or undo it",
        description=(
            "Placing items, bringing content in, settling findings, sending totals: everything that"
            " is written outside, in one list."
        ),
    )
    below = operations.add_subparsers(dest="operations", required=True, metavar="COMMAND")
    listing = below.add_parser("list", help="list operations, the newest first")
    listing.add_argument("shell", nargs="?", default="", help="of this shell only")
    listing.add_argument("--state", choices=STATES, default="", help="in this state only")
    listing.add_argument("--kind", default="", help="of this kind only, for example rollout")
    listing.add_argument(
        "--limit", type=int, default=SHOWN, metavar="N", help=f"show N at most (default {SHOWN})"
    )
    listing.set_defaults(run=run_list)
    for name, words, run in (
        ("show", "show one with its steps", run_show),
        ("follow", "wait for one to end, with its progress", run_follow),
        ("stop", "stop one; what is in flight is finished first", run_stop),
        ("retry", "do again just what could not be done", run_retry),
        ("undo", "undo what is safe to undo", run_undo),
    ):
        command = below.add_parser(name, help=words)
        command.add_argument("operation", help="the beginning of its id")
        if name in {"retry", "undo"}:
            command.add_argument(
                "--dry-run", action="store_true", help="say what would happen, change nothing"
            )
        command.set_defaults(run=run)


def run_list(args: argparse.Namespace, out: Output) -> int:
    """List operations."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell) if args.shell else ""
        rows: list[Operation] = []
        for row in venn.operations(pairing, args.state, args.kind):
            if len(rows) >= args.limit:
                break
            rows.append(row)
        at = course_clock(venn, pairing) if pairing else clock_of()
    if out.as_json:
        out.document(rows)
    out.table(
        ("operation", "at", "shell", "what", "state", "steps", "how it went"),
        [
            (
                row["id"][:8],
                at(row["made_at"]),
                row["shell"],
                row["says"],
                row["state"] + (", undone" if row["undone"] else ""),
                f"{row['done']} of {row['total']}",
                row["message"],
            )
            for row in rows
        ],
        empty="Nothing was written to a shell yet.",
    )
    return DONE


def run_show(args: argparse.Namespace, out: Output) -> int:
    """Show one with its steps."""
    with connect() as venn:
        found = _chosen(venn, args.operation)
        return _report(venn, found, out)


def run_follow(args: argparse.Namespace, out: Output) -> int:
    """Wait for one to end."""
    with connect() as venn:
        return _follow(venn, _chosen(venn, args.operation), out)


def run_stop(args: argparse.Namespace, out: Output) -> int:
    """Stop one."""
    with connect() as venn:
        stopped = venn.stop_operation(_chosen(venn, args.operation)["id"])
    if out.as_json:
        out.document(stopped)
    out.line(
        "It was asked to stop; what is in flight is finished first. See: vennpair operations show"
        f" {stopped['id'][:8]}"
    )
    return DONE


def run_retry(args: argparse.Namespace, out: Output) -> int:
    """Do again what could not be done."""
    with connect() as venn:
        found = _chosen(venn, args.operation)
        if not goes_on(venn, found["id"], args, out):
            return DONE
        return _follow(venn, venn.retry_operation(found["id"]), out)


def goes_on(venn: VennPair, operation: str, args: argparse.Namespace, out: Output) -> bool:
    """Show what of an operation would be done again; say whether it is to be."""
    rows = [each for each in venn.operation_steps(operation) if each["state"] in AGAIN]
    out.table(
        ("what would be done again", "what it is about", "why it was not done"),
        [(row["does"], row["title"], row["message"]) for row in rows],
        empty="Nothing is left that would be done again.",
    )
    if not args.dry_run:
        return True
    if out.as_json:
        out.document({"rows": rows, "dry_run": True})
    out.line("Nothing was changed.")
    return False


def run_undo(args: argparse.Namespace, out: Output) -> int:
    """Undo one, showing first what that means."""
    with connect() as venn:
        found = _chosen(venn, args.operation)
        rows = venn.plan_operation_undo(found["id"])
        out.table(
            ("what it is about", "what", "stays because"),
            [(row["title"], "stays" if row["why"] else row["does"], row["why"]) for row in rows],
        )
        if args.dry_run:
            if out.as_json:
                out.document({"rows": rows, "dry_run": True})
            out.line("Nothing was changed.")
            return DONE
        return _follow(venn, venn.undo_operation(found["id"]), out)


def _follow(venn: VennPair, found: Operation, out: Output) -> int:
    """Wait with progress, then report. Raises Refusal where it failed or was stopped."""
    with out.progress(f"{found['says']} in {found['shell']}") as show:
        venn.wait(cast("Job", found), show, seconds=3600)
    return _report(venn, venn.operation(found["id"]), out)


def _report(venn: VennPair, found: Operation, out: Output) -> int:
    """Say how it went, step by step; return the exit code."""
    steps: list[Any] = list(venn.operation_steps(found["id"]))
    if out.as_json:
        out.document({**found, "steps": steps})
    at = course_clock(venn, found["pairing"])
    out.line(
        f"{found['says']} in {found['shell']}, asked for by {found['made_by']} at"
        f" {at(found['made_at'])}: {found['state']}."
    )
    for words in (found["message"], found["remedy"]):
        if words:
            out.line(words)
    valued = any(step["before"] is not None or step["after"] is not None for step in steps)
    between = ("before", "after") if valued else ()
    out.table(
        ("state", "what", "what it is about", *between, "why"),
        [
            (
                *(step[name] for name in ("state", "does", "title")),
                *(step[name] for name in between),
                step["message"],
            )
            for step in steps
        ],
        styles=["bold red" if step["state"] == "failed" else "" for step in steps],
        empty="Its single writes are not kept.",
    )
    failed = found["state"] == "failed" or any(step["state"] == "failed" for step in steps)
    if failed:
        out.line(f"Do just that again with: vennpair operations retry {found['id'][:8]}")
    return FINDINGS if failed else DONE


def _chosen(venn: VennPair, wanted: str) -> Operation:
    """Return the operation whose id begins so. Raises Stop where none or several do."""
    if len(wanted) == 36:
        return venn.operation(wanted)
    found: Operation = choose_by_id(
        "operation", "operation_unknown", venn.operations(), wanted, "operations list [SHELL]"
    )
    return found
