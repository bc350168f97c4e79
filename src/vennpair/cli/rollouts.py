"""Rollouts that were made, and what they placed: stopped, done again, undone, taken back, put in
order.
"""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path
from shlex import quote
from typing import Any

from vennpair.cli.choose import choose, choose_by_id, choose_pairing
from vennpair.cli.clock import Clock, course_clock
from vennpair.cli.connect import Commands
from vennpair.cli.deploy import follow, report
from vennpair.cli.exits import DONE, FINDINGS, REFUSED, Stop
from vennpair.cli.operations import goes_on
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import VennPair
from vennpair.client.schema import Placement, Rollout


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    _add_rollouts(commands)
    _add_placements(commands)
    _add_take_back(commands)
    _add_reorder(commands)


def _add_rollouts(commands: Commands) -> None:
    rollouts = commands.add_parser(
        "rollouts", help="list rollouts; stop one, do again what failed, or undo it"
    )
    below = rollouts.add_subparsers(dest="rollouts", required=True, metavar="COMMAND")
    for name, words in (
        ("list", "every rollout of a shell"),
        ("show", "one with its steps"),
        ("stop", "stop; what is in flight is finished first"),
        ("retry", "do again just what could not be done"),
        ("undo", "undo while no learner has worked"),
    ):
        command = below.add_parser(name, help=words)
        command.add_argument("shell", help="label, title or id of the paired shell")
        if name != "list":
            command.add_argument(
                "rollout",
                nargs="?",
                default="",
                help="the beginning of its id; left out: the newest",
            )
        if name in {"retry", "undo"}:
            command.add_argument(
                "--dry-run", action="store_true", help="say what would happen, change nothing"
            )
        command.set_defaults(
            run={
                "list": run_list,
                "show": run_show,
                "stop": run_stop,
                "retry": run_retry,
                "undo": run_undo,
            }[name]
        )


def _add_placements(commands: Commands) -> None:
    placements = commands.add_parser(
        "placements", help="list the links that are in a shell, as they were placed"
    )
    placements.add_argument("shell", help="label, title or id of the paired shell")
    placements.set_defaults(run=run_placements)


def _add_take_back(commands: Commands) -> None:
    back = commands.add_parser(
        "take-back", help="take links out of a shell; the items are free again"
    )
    back.add_argument("shell", help="label, title or id of the paired shell")
    back.add_argument("items", nargs="+", metavar="ITEM", help="titles or ids")
    back.add_argument(
        "--scores",
        choices=("ask", "keep", "export", "remove"),
        default="ask",
        help="what becomes of columns that hold scores (ask: nothing is done)",
    )
    back.add_argument(
        "--to", type=Path, default=Path(), metavar="FOLDER", help="where exported columns are saved"
    )
    back.add_argument(
        "--dry-run", action="store_true", help="say what would happen, change nothing"
    )
    back.set_defaults(run=run_take_back)


def _add_reorder(commands: Commands) -> None:
    order = commands.add_parser(
        "reorder", help="put placed links into another order: folders and gradebook at once"
    )
    order.add_argument("shell", help="label, title or id of the paired shell")
    order.add_argument(
        "--by",
        choices=("publisher", "due", "unit"),
        default="publisher",
        help="sort by the publisher's order, the due date, or unit",
    )
    order.add_argument("--folder", default="", help="only this folder")
    order.add_argument(
        "--entry",
        action="append",
        default=[],
        help="move this entry of the outline, by hand; may be repeated",
    )
    order.add_argument(
        "--after",
        default="",
        metavar="ENTRY",
        help="with --entry: after this one, or 'start'; left out: to the end",
    )
    order.add_argument(
        "--no-gradebook", action="store_true", help="leave the gradebook's columns as they are"
    )
    order.add_argument(
        "--dry-run", action="store_true", help="say what would happen, change nothing"
    )
    order.set_defaults(run=run_reorder)


def run_list(args: argparse.Namespace, out: Output) -> int:
    """List rollouts."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        rows, at = list(venn.rollouts(pairing)), course_clock(venn, pairing)
    if out.as_json:
        out.document(rows)
    table = [
        (
            row["id"][:8],
            at(row["made_at"]),
            row["purpose"].replace("_", " "),
            row["job"]["state"] + (", undone" if row["undone"] else ""),
            row["folder"],
            row["job"]["message"],
        )
        for row in rows
    ]
    out.table(
        ("rollout", "at", "what", "state", "into", "how it went"),
        table,
        empty="Nothing was deployed here yet.",
    )
    return DONE


def run_show(args: argparse.Namespace, out: Output) -> int:
    """Show one with its steps."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        rollout = venn.rollout(pairing, _chosen(venn, pairing, args.rollout)["id"])
    if out.as_json:
        out.document(rollout)
    out.table(
        ("state", "what", "title", "why"),
        [
            (step["state"], step["kind"].replace("_", " "), step["title"], step["message"])
            for step in rollout["steps"]
        ],
    )
    return report([rollout], out)


def run_stop(args: argparse.Namespace, out: Output) -> int:
    """Stop one."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        chosen = _chosen(venn, pairing, args.rollout)
        venn.stop_operation(chosen["job"]["id"])
        rollout = venn.rollout(pairing, chosen["id"])
    if out.as_json:
        out.document(rollout)
    out.line(
        "It was asked to stop; what is in flight is finished first. See: vennpair rollouts show"
        " SHELL"
    )
    return DONE


def run_retry(args: argparse.Namespace, out: Output) -> int:
    """Do again what could not be done."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        chosen = _chosen(venn, pairing, args.rollout)
        if not goes_on(venn, chosen["job"]["id"], args, out):
            return DONE
        venn.retry_operation(chosen["job"]["id"])
        ended = follow(venn, [venn.rollout(pairing, chosen["id"])], out, "Trying again")
    if out.as_json:
        out.document(ended[0])
    return report(ended, out)


def run_undo(args: argparse.Namespace, out: Output) -> int:
    """Undo one, showing first what that means."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        rollout = _chosen(venn, pairing, args.rollout, undoable=True)
        rows = venn.plan_operation_undo(rollout["job"]["id"])
        out.table(
            ("title", "what", "stays because"),
            [(row["title"], "stays" if row["why"] else row["does"], row["why"]) for row in rows],
        )
        if args.dry_run:
            if out.as_json:
                out.document({"rows": rows, "dry_run": True})
            out.line("Nothing was changed.")
            return DONE
        undoing = venn.undo_operation(rollout["job"]["id"])
        ended = follow(venn, [venn.rollout(pairing, undoing["subject"])], out, "Undoing")
    if out.as_json:
        out.document({"rows": rows, "rollout": ended[0]})
    return report(ended, out)


def run_placements(args: argparse.Namespace, out: Output) -> int:
    """List what is placed."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        rows, at = list(venn.placements(pairing)), course_clock(venn, pairing)
    if out.as_json:
        out.document(rows)
    table = [
        (
            row["title"],
            row["state"],
            row["folder"] or "the top",
            row["points"],
            at(row["due_at"]),
            row["category"],
            _shown(row, at),
        )
        for row in rows
    ]
    out.table(
        ("title", "state", "folder", "points", "due", "category", "learners"),
        table,
        empty="No link of this pairing is in the shell yet.",
    )
    return FINDINGS if any(row["state"] == "failed" for row in rows) else DONE


def run_take_back(args: argparse.Namespace, out: Output) -> int:
    """Take links back, saying first what becomes of their scores."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        there = list(venn.placements(pairing))
        chosen = list(
            dict.fromkeys(_placement(there, each, args.shell)["id"] for each in args.items)
        )
        plan = venn.plan_take_back(pairing, chosen, args.scores)
        out.table(
            ("title", "link", "scores", "column"),
            [
                (
                    row["title"],
                    "delete it in the shell" if row["by_hand"] else "removed",
                    row["scores"],
                    {"none": "has none", "asked": "say with --scores"}.get(
                        row["column"], row["column"]
                    ),
                )
                for row in plan
            ],
        )
        if args.dry_run:
            if out.as_json:
                out.document({"rows": plan, "dry_run": True})
            out.line("Nothing was changed.")
            return DONE
        known = {each["id"] for each in venn.exports(pairing)}
        ended = follow(venn, [venn.take_back(pairing, chosen, args.scores)], out, "Removing")
        saved = _save_exports(venn, pairing, known, args.to)
    if out.as_json:
        out.document({"rows": plan, "rollout": ended[0], "saved": saved})
    for each in saved:
        out.line(f"Saved {each}.")
    return report(ended, out)


def run_reorder(args: argparse.Namespace, out: Output) -> int:
    """Put in order, showing first what changes."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        outline = venn.outline(pairing)
        wanted: dict[str, Any] = {"by": args.by, "gradebook": not args.no_gradebook}
        if args.folder:
            wanted["folder"] = _node(
                [row for row in outline if row["kind"] == "folder"], args.folder, args.shell
            )["id"]
        if args.entry:
            after = (
                args.after
                if args.after in {"", "start"}
                else _node(outline, args.after, args.shell)["id"]
            )
            wanted |= {
                "entries": [_node(outline, each, args.shell)["id"] for each in args.entry],
                "after": after,
            }
        plan = venn.plan_order(pairing, **wanted)
        for folder in plan["folders"]:
            out.line(
                f"{folder['folder'] or 'The top of the outline'}: {', '.join(folder['then'])}."
            )
        if plan["columns_then"]:
            out.line(f"Gradebook: {', '.join(plan['columns_then'])}.")
        if args.dry_run or not (plan["folders"] or plan["columns_then"]):
            if out.as_json:
                out.document({"plan": plan, "dry_run": args.dry_run})
            out.line(
                "Nothing was changed." if args.dry_run else "Everything is in this order already."
            )
            return DONE
        ended = follow(venn, [venn.order(pairing, **wanted)], out, "Ordering")
    if out.as_json:
        out.document({"plan": plan, "rollout": ended[0]})
    return report(ended, out)


def _chosen(venn: VennPair, pairing: str, wanted: str, *, undoable: bool = False) -> Rollout:
    rows = (
        row
        for row in venn.rollouts(pairing)
        if wanted or not undoable or not (row["undone"] or row["purpose"] in {"undo", "take_back"})
    )
    found: Rollout = choose_by_id("rollout", "rollout_unknown", rows, wanted, "rollouts list SHELL")
    return found


def _shown(row: Placement, at: Clock) -> str:
    return (
        "hidden"
        if not row["visible"]
        else f"from {at(row['shown_from'])}"
        if row["shown_from"]
        else "shown"
    )


def _placement(rows: Sequence[Placement], wanted: str, shell: str) -> Placement:
    found: Placement = choose(
        "placement",
        rows,
        wanted,
        lambda row: (row["title"], row["item_title"]),
        f"placements {quote(shell)}",
    )
    return found


def _node(rows: Sequence[Any], wanted: str, shell: str) -> Any:
    return choose("entry", rows, wanted, lambda row: (row["title"],), f"placements {quote(shell)}")


def _save_exports(venn: VennPair, pairing: str, known: set[str], folder: Path) -> list[str]:
    saved = []
    for number, each in enumerate(
        [row for row in venn.exports(pairing) if row["id"] not in known], start=1
    ):
        name = "".join(letter if letter.isalnum() else "-" for letter in each["title"])[:60]
        target = folder / f"{number:02d}-{name}.csv"
        try:
            venn.fetch_export(pairing, each["id"], target)
        except OSError as error:
            raise Stop(
                REFUSED,
                "unwritable",
                f"{target}: {error.strerror or error}.",
                "The scores are kept at the service; fetch them again in the console.",
            ) from error
        saved.append(str(target))
    return saved
