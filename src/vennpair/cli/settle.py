"""Settling what a comparison found, looking at one cell, and taking a settlement back."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from typing import Any

from vennpair.cli.choose import choose_by_id, choose_pairing
from vennpair.cli.clock import course_clock
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, REFUSED, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import VennPair
from vennpair.client.schema import (
    ChoiceRequest,
    Comparison,
    Finding,
    Job,
    Matrix,
    Settlement,
    SettlementLine,
    SettlementPreview,
    SettleStep,
)
from vennpair.core.counting import many

REMEDIES = (
    *("send", "restore", "clear", "keep", "leave"),
    *("put_back", "claim", "make_again", "match", "tie"),
)
SHOWN = 30


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    _add_settle(commands)
    _add_settlements(commands)
    _add_cell(commands)


def _add_settle(commands: Commands) -> None:
    settle = commands.add_parser(
        "settle",
        help="settle what the last comparison found",
        description=(
            "Shows first what is written, then writes it, reads it back and records it. --dry-run"
            " stops after showing."
        ),
    )
    settle.add_argument("shell", help="label, title or id of the paired shell")
    settle.add_argument(
        "--safe",
        action="store_true",
        help="send what is behind, unsent or was refused; overwrites nothing that somebody typed",
    )
    settle.add_argument(
        "--kind",
        action="append",
        default=[],
        metavar="KIND[=REMEDY]",
        help="all findings of a kind, by its default remedy or the one named (may be repeated)",
    )
    settle.add_argument(
        "--finding",
        action="append",
        default=[],
        metavar="ID[=REMEDY[:CANDIDATE]]",
        help="one finding by its number (may be repeated)",
    )
    settle.add_argument(
        "--learner", default="", help="only findings of a learner, by name or address"
    )
    settle.add_argument("--item", default="", help="only findings of an item, by title")
    settle.add_argument(
        "--remedy",
        choices=REMEDIES,
        default="",
        help="what to do with what --learner and --item choose; without it each finding's default",
    )
    settle.add_argument(
        "--dry-run", action="store_true", help="show what would be written, change nothing"
    )
    settle.set_defaults(run=_run_settle)


def _add_settlements(commands: Commands) -> None:
    settlements = commands.add_parser(
        "settlements", help="see settlements and proposals, carry them out, take them back"
    )
    below = settlements.add_subparsers(dest="settlements", required=True, metavar="COMMAND")
    for name, words, run in (
        ("list", "settlements and proposals, newest first", _run_list),
        ("show", "every step of one", _run_show),
        ("undo", "restore exactly what was there before", _run_undo),
        ("carry-out", "carry out what an assistant proposed", _run_carry_out),
        ("dismiss", "put a proposal aside", _run_dismiss),
    ):
        command = below.add_parser(name, help=words)
        command.add_argument("shell", help="label, title or id of the paired shell")
        if name != "list":
            command.add_argument(
                "settlement",
                nargs="?",
                default="",
                help="its id or the beginning of it; the newest without it",
            )
        if name in {"undo", "carry-out"}:
            command.add_argument(
                "--dry-run", action="store_true", help="show what would be written, change nothing"
            )
        command.set_defaults(run=run)


def _add_cell(commands: Commands) -> None:
    cell = commands.add_parser(
        "cell", help="everything that happened to one score, and notes on it"
    )
    cell.add_argument("shell", help="label, title or id of the paired shell")
    cell.add_argument("--learner", required=True, help="name or address")
    cell.add_argument("--item", required=True, help="title of the item")
    cell.add_argument("--note", default="", help="leave a note")
    cell.set_defaults(run=_run_cell)


def newest(venn: VennPair, pairing: str) -> Comparison:
    """Return the newest finished comparison. Raises Stop where there is none."""
    found = next(
        (each for each in venn.comparisons(pairing) if each["at"] and not each["file"]), None
    )
    if found is None:
        raise Stop(
            REFUSED,
            "not_compared",
            "This pairing was never compared.",
            "Compare it with: vennpair reconcile SHELL",
        )
    return found


def _run_settle(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        comparison = newest(venn, pairing)
        chosen = _chosen(args, venn, pairing, comparison["id"])
        if not (args.safe or args.kind or chosen):
            raise Stop(
                USAGE,
                "what_to_settle",
                "Say what to settle.",
                "Use --safe, --kind, --finding, or --learner and --item. List findings with:"
                " vennpair reconcile SHELL",
            )
        kinds = dict(_split(each) for each in args.kind)
        preview = venn.settle(
            pairing, comparison["id"], safe=args.safe, kinds=kinds, findings=chosen, dry_run=True
        )
        _show_steps(preview["steps"], out)
        if args.dry_run:
            if out.as_json:
                out.document({**preview, "dry_run": True})
            out.line("Nothing was changed.")
            return DONE
        begun = venn.settle(pairing, comparison["id"], safe=args.safe, kinds=kinds, findings=chosen)
        return _follow(venn, pairing, begun, out)


def _split(text: str) -> tuple[str, str]:
    kind, _, remedy = text.partition("=")
    if remedy and remedy not in REMEDIES:
        raise Stop(
            USAGE, "usage", f"'{remedy}' is not a remedy.", f"One of: {', '.join(REMEDIES)}."
        )
    return kind, remedy


def _chosen(
    args: argparse.Namespace, venn: VennPair, pairing: str, comparison: str
) -> list[ChoiceRequest]:
    chosen: list[ChoiceRequest] = []
    for each in args.finding:
        number, _, rest = each.partition("=")
        remedy, _, candidate = rest.partition(":")
        if not number.isdigit():
            raise Stop(
                USAGE,
                "usage",
                f"'{number}' is not a finding's number.",
                "List them with: vennpair reconcile SHELL --format json",
            )
        chosen.append({"finding": int(number), "remedy": remedy, "candidate": candidate})
    if args.learner or args.item:
        found = [
            each
            for each in venn.findings(pairing, comparison)
            if each["remedies"] and _fits(each, args.learner, args.item)
        ]
        if not found:
            raise Stop(
                REFUSED,
                "nothing_to_settle",
                "The last comparison found nothing open there.",
                "Compare again with: vennpair reconcile SHELL",
            )
        chosen += [{"finding": each["id"], "remedy": args.remedy} for each in found]
    return chosen


def _fits(finding: Finding, learner: str, item: str) -> bool:
    by_learner = not learner or learner.casefold() in {
        finding["learner"].casefold(),
        finding["email"].casefold(),
    }
    return by_learner and (not item or finding["item"].casefold() == item.casefold())


def _show_steps(steps: Sequence[SettleStep], out: Output) -> None:
    """Show what would be written, and what each cell holds as it was read last."""
    rows = [
        (
            each["kind"],
            each["learner"],
            each["item"],
            each["remedy"].replace("_", " "),
            each["before"],
            each["after"],
        )
        for each in steps
    ]
    writes = sum(each["writes"] for each in steps)
    out.line(f"{many(len(steps), 'finding')}, {writes} written to the gradebook:")
    out.table(("finding", "learner", "item", "remedy", "now", "becomes"), rows)


def _follow(venn: VennPair, pairing: str, begun: SettlementPreview, out: Output) -> int:
    made = begun["settlement"]
    if made is None or made["job"] is None:
        if out.as_json:
            out.document(begun)
        out.line(
            "It is proposed; an instructor carries it out with: vennpair settlements carry-out"
            " SHELL"
        )
        return DONE
    return _wait(venn, pairing, made, out)


def _wait(venn: VennPair, pairing: str, made: SettlementLine, out: Output) -> int:
    if made["job"] is not None:
        with out.progress("Settling") as follow:
            venn.wait(made["job"], follow)
    done = venn.settlement(pairing, made["id"])
    if out.as_json:
        out.document(done)
    out.line(f"{done['job']['message'] if done['job'] else 'done'}.".capitalize())
    bad = [each for each in done.get("steps", []) if each["state"] in {"failed", "left"}]
    out.table(
        ("not done", "learner", "item", "why"),
        [(each["state"], each["learner"], each["item"], each["message"]) for each in bad],
    )
    if not done["undoes"]:
        out.line(f"Take it back with: vennpair settlements undo SHELL {done['id'][:8]}")
    return FINDINGS if bad else DONE


def _run_list(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        rows, at = list(venn.settlements(pairing)), course_clock(venn, pairing)
        if out.as_json:
            out.document(rows)
            return DONE
        out.table(
            ("id", "state", "at", "by", "steps"),
            [
                (row["id"][:8], _state(row), at(row["made_at"]), row["made_by"], _counts(row))
                for row in rows
            ],
            empty="Nothing was settled here yet.",
        )
        return DONE


def _state(row: Settlement) -> str:
    return (
        "undone"
        if row["undone"]
        else f"{row['state']}{', undoes another' if row['undoes'] else ''}"
    )


def _counts(row: Settlement) -> str:
    return ", ".join(f"{count} {state}" for state, count in sorted(row["counts"].items()))


def _run_show(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        found = venn.settlement(
            pairing, _one(list(venn.settlements(pairing)), args.settlement)["id"]
        )
        if out.as_json:
            out.document(found)
            return DONE
        out.line(f"{_state(found)}, by {found['made_by']}")
        out.table(
            ("state", "what", "why"),
            [(each["state"], each["words"], each["message"]) for each in found.get("steps", [])],
        )
        return DONE


def _run_undo(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        made = _one(
            [
                each
                for each in venn.settlements(pairing)
                if each["state"] == "done" and not each["undoes"] and not each["undone"]
            ],
            args.settlement,
        )
        operation = _job_of(made)["id"]
        rows = venn.plan_operation_undo(operation)
        out.table(("what it is about", "what"), [(row["title"], row["does"]) for row in rows])
        if args.dry_run:
            if out.as_json:
                out.document({"rows": rows, "dry_run": True})
            out.line("Nothing was changed.")
            return DONE
        undoing = venn.undo_operation(operation)
        return _wait(venn, pairing, venn.settlement(pairing, undoing["subject"]), out)


def _run_carry_out(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        made = _one(
            [each for each in venn.settlements(pairing) if each["state"] == "proposed"],
            args.settlement,
        )
        proposed = venn.settlement(pairing, made["id"])
        _show_steps(proposed["steps"], out)
        if args.dry_run:
            if out.as_json:
                out.document({"settlement": proposed, "dry_run": True})
            out.line("Nothing was changed.")
            return DONE
        return _wait(venn, pairing, venn.carry_out(pairing, made["id"]), out)


def _run_dismiss(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        made = _one(
            [each for each in venn.settlements(pairing) if each["state"] == "proposed"],
            args.settlement,
        )
        done = venn.dismiss(pairing, made["id"])
        if out.as_json:
            out.document(done)
        out.line("The proposal is put aside; nothing was changed.")
        return DONE


def _job_of(made: Settlement) -> Job:
    if made["job"] is None:
        raise AssertionError("what is done has a job")
    return made["job"]


def _one(rows: Sequence[Settlement], wanted: str) -> Settlement:
    found: Settlement = choose_by_id(
        "settlement", "unknown_settlement", rows, wanted, "settlements list SHELL"
    )
    return found


def _run_cell(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        placement, learner = _cell_of(venn, pairing, args.learner, args.item)
        if args.note:
            venn.leave_note(pairing, placement, learner, args.note)
        story: dict[str, Any] = dict(venn.cell(pairing, placement, learner))
        if out.as_json:
            out.document(story)
            return DONE
        out.line(
            f"{story['learner']}, {story['item']}:"
            f" {story['kind'] or 'agrees, or nobody has a score'}"
        )
        at = course_clock(venn, pairing, seconds=True)
        rows = [
            (at(each["at"]), each["side"], each["what"], _score(each), each["words"])
            for each in story["events"]
        ]
        out.table(
            ("at", "side", "what", "score", "words"), rows, empty="Nothing has happened here yet."
        )
        for note in story["notes"]:
            out.line(f"Note by {note['author']}, {note['at'][:10]}: {note['text']}")
        return DONE


def _cell_of(venn: VennPair, pairing: str, learner: str, item: str) -> tuple[str, str]:
    matrix = venn.comparison(pairing, newest(venn, pairing)["id"])["matrix"]
    if matrix is None:
        matrix = Matrix(items=[], learners=[], rows=[])
    columns = [
        place
        for title, place in zip(matrix["items"], matrix.get("placements", []), strict=False)
        if title.casefold() == item.casefold()
    ]
    found = [
        each
        for each in venn.findings(pairing, newest(venn, pairing)["id"])
        if each["email"].casefold() == learner.casefold()
    ]
    people = {
        person
        for name, person in zip(matrix["learners"], matrix.get("people", []), strict=False)
        if name.casefold() == learner.casefold()
    } | {each["person"] for each in found if each["person"]}
    if len(columns) != 1 or len(people) != 1:
        what = f"item '{item}'" if len(columns) != 1 else f"learner '{learner}'"
        raise Stop(
            REFUSED,
            "unknown_cell",
            f"The last comparison has not exactly one {what}.",
            "Look at it with: vennpair reconcile SHELL",
        )
    return str(columns[0]), str(people.pop())


def _score(event: dict[str, Any]) -> str:
    if event["score"] is None:
        return ""
    return f"{event['score']} of {event['points']}" if event["points"] else str(event["score"])
