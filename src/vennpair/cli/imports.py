"""Imports of cartridges: read, chosen from, brought into the shell, taken out again, written as a
file.
"""

from __future__ import annotations

import argparse
import os
from collections import Counter
from collections.abc import Mapping, Sequence
from pathlib import Path
from shlex import quote
from typing import Any

from vennpair.cli.choose import choose_entry, choose_import, choose_pairing
from vennpair.cli.clock import Clock, course_clock
from vennpair.cli.exits import DONE, FINDINGS, UNREADABLE, USAGE, Stop
from vennpair.cli.output import LEVEL_STYLES, Output
from vennpair.cli.session import connect
from vennpair.client import VennPair
from vennpair.client.schema import DeliveryPlan, Entry, Import
from vennpair.standards.cartridge import Cartridge, Limits, UnusableCartridge, read_cartridge
from vennpair.standards.cartridge.report import inspection

KINDS = (
    "page",
    "file",
    "web_link",
    "discussion",
    "assignment",
    "lti_link",
    "assessment",
    "question_bank",
)
ACTIONS = {
    "make": "new",
    "update": "updated",
    "same": "there already",
    "keep": "kept as it is",
    "leave_out": "left out",
}
SHOWN_OF_A_CODE = 3
_STYLES = {"make": "", "update": "", "same": "dim", "keep": "yellow", "leave_out": "yellow"}


def add_choice(command: argparse.ArgumentParser) -> None:
    """Add the options that say which entries are meant."""
    which = command.add_argument_group("which entries")
    which.add_argument("--all", action="store_true", help="everything that can be brought in")
    which.add_argument(
        "--entry",
        action="append",
        default=[],
        metavar="TITLE",
        help="one entry by title or id; may be repeated",
    )
    which.add_argument(
        "--folder",
        action="append",
        default=[],
        metavar="TITLE",
        help="a folder with all in it, by title or id; may be repeated",
    )
    which.add_argument(
        "--kind",
        action="append",
        default=[],
        choices=KINDS,
        help="only entries of a kind; may be repeated",
    )
    which.add_argument(
        "--search", default="", metavar="WORDS", help="only entries whose title has these words"
    )
    which.add_argument(
        "--review",
        choices=("keep", "hide", "leave_out"),
        default="keep",
        help="review and refresher folders: keep, hide from learners, or leave out",
    )


def add_import(command: argparse.ArgumentParser) -> None:
    """Add the options of importing."""
    command.add_argument("shell", help="label, title or id of the paired shell")
    command.add_argument("file", type=Path, nargs="?", help="left out: fetched from the publisher")
    command.add_argument(
        "--catalogue",
        action="store_true",
        help="no cartridge: the items that the publisher's catalogue lists",
    )
    add_choice(command)
    _add_where(command)
    command.set_defaults(run=run_import)


def add_bring(command: argparse.ArgumentParser) -> None:
    """Add the options of bringing in more of what was read before."""
    command.add_argument("shell", help="label, title or id of the paired shell")
    command.add_argument(
        "--import",
        dest="import_id",
        default="",
        metavar="ID",
        help="which import; left out: the newest",
    )
    add_choice(command)
    _add_where(command)
    command.set_defaults(run=run_bring)


def _add_where(command: argparse.ArgumentParser) -> None:
    command.add_argument(
        "--into",
        default="",
        metavar="FOLDER",
        help="title or id of a folder; made where it is not there; left out: the top",
    )
    command.add_argument(
        "--no-columns", action="store_true", help="graded links get no gradebook column"
    )
    command.add_argument(
        "--questions",
        action="append",
        default=[],
        metavar="QUIZ=NUMBERS",
        help="only these questions of a quiz, such as 'Map quiz=1,3-5'; may be repeated",
    )
    command.add_argument(
        "--dry-run",
        action="store_true",
        help="show what would happen; nothing in the shell is changed",
    )


def run_import(args: argparse.Namespace, out: Output) -> int:
    """Read a cartridge, and bring in what was chosen of it.

    A dry run without a choice only looks into the file.
    """
    if args.file is not None and args.catalogue:
        raise Stop(USAGE, "two_sources", "A file and --catalogue are two sources.", "Choose one.")
    if args.file is not None:
        found = look_into(args.file)
        if args.dry_run and not _asked(args):
            (
                out.document(inspection(found))
                if out.as_json
                else show_findings(inspection(found)["findings"], out)
            )
            return _status(inspection(found)["findings"])
    elif args.dry_run and not _asked(args):
        raise Stop(
            USAGE,
            "no_file",
            "A dry run looks into a file, or plans a choice.",
            "Name the file, or say --all, --folder, --entry, --kind or --search.",
        )
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        made = read_package(venn, pairing, args.file, out, catalogue=args.catalogue)
        if not _asked(args):
            if out.as_json:
                out.document(made)
            out.line(f"'{made['title']}' was read: {made['job']['message']}.")
            show_findings(made["findings"], out)
            out.line(
                "Nothing in the shell was changed. Bring it in with: vennpair cartridge bring"
                f" {quote(args.shell)} --all (or --folder, --entry, --kind, --search)"
            )
            return _status(made["findings"])
        return _bring(venn, pairing, made, args, out)


def run_bring(args: argparse.Namespace, out: Output) -> int:
    """Bring in entries of an import that was read before."""
    if not _asked(args):
        raise Stop(
            USAGE,
            "nothing_chosen",
            "Which entries?",
            "Say --all, --folder, --entry, --kind or --search; list them with: vennpair cartridge"
            f" entries {quote(args.shell)}",
        )
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        return _bring(venn, pairing, choose_import(venn, pairing, args.import_id), args, out)


def read_package(
    venn: VennPair, pairing: str, file: Path | None, out: Output, *, catalogue: bool = False
) -> Import:
    """Send a file (or let it be fetched, or the catalogue be taken), have it read, and return the
    import.
    """
    package = ""
    if file is not None:
        with out.progress("Sending") as follow:
            package = venn.send_package(
                pairing,
                file,
                lambda done, total: follow({"done": done, "total": total, "message": file.name}),
            )["id"]
    made = venn.start_import(pairing, package, catalogue=catalogue)
    with out.progress("Reading") as follow:
        venn.wait(made["job"], follow)
    return venn.import_of(pairing, made["id"])


def look_into(file: Path) -> Cartridge:
    """Read a file here, before anything is sent. Raises Stop where it cannot be used."""
    try:
        return read_cartridge(file, Limits.from_environment(os.environ))
    except OSError as error:
        raise Stop(
            UNREADABLE,
            "unreadable",
            f"{file} cannot be read: {error.strerror or error}.",
            "Check the name and your rights to it.",
        ) from error
    except UnusableCartridge as error:
        raise Stop(
            UNREADABLE,
            error.finding.code,
            error.finding.message,
            error.finding.remedy,
            where=error.finding.where,
        ) from error


def _status(findings: Sequence[Mapping[str, Any]]) -> int:
    return FINDINGS if any(each["level"] == "error" for each in findings) else DONE


def _asked(args: argparse.Namespace) -> bool:
    return bool(args.all or args.entry or args.folder or args.kind or args.search)


def order_of(
    venn: VennPair, pairing: str, made: Import, args: argparse.Namespace
) -> dict[str, Any]:
    """Return the choice as the service takes it."""
    entries = list(venn.entries(pairing, made["id"])) if args.entry or args.folder else []
    chosen = [
        choose_entry([row for row in entries if row["kind"] != "folder"], wanted, args.shell)["id"]
        for wanted in args.entry
    ]
    chosen += [
        choose_entry([row for row in entries if row["kind"] == "folder"], wanted, args.shell)["id"]
        for wanted in args.folder
    ]
    return {
        "everything": args.all,
        "entries": chosen,
        "kinds": args.kind,
        "words": args.search,
        "review": args.review,
    }


def _questions(
    venn: VennPair, pairing: str, made: Import, args: argparse.Namespace
) -> dict[str, list[int]]:
    """Return the chosen questions by entry. Raises Stop."""
    if not args.questions:
        return {}
    quizzes = [
        row
        for row in venn.entries(pairing, made["id"])
        if row["kind"] in {"assessment", "question_bank"}
    ]
    found = {}
    for each in args.questions:
        title, _, numbers = each.rpartition("=")
        try:
            found[choose_entry(quizzes, title, args.shell)["id"]] = _numbers(numbers)
        except ValueError:
            raise Stop(
                USAGE,
                "usage",
                f"'{each}' does not say which questions of a quiz are meant.",
                "Write it as: --questions 'Map quiz=1,3-5'; see them with: vennpair cartridge"
                " preview SHELL QUIZ",
            ) from None
    return found


def _numbers(text: str) -> list[int]:
    """Return the numbers of a list such as 1,3-5. Raises ValueError."""
    found: list[int] = []
    for part in text.split(","):
        first, mark, last = part.partition("-")
        found += range(int(first), int(last if mark else first) + 1)
    return found


def _bring(
    venn: VennPair, pairing: str, made: Import, args: argparse.Namespace, out: Output
) -> int:
    order = order_of(venn, pairing, made, args) | {
        "folder": args.into,
        "columns": not args.no_columns,
        "questions": _questions(venn, pairing, made, args),
    }
    plan = venn.plan_delivery(pairing, made["id"], **order)
    if not out.as_json:
        _show_plan(plan, out)
    if args.dry_run or not plan["counts"]["make"] + plan["counts"]["update"]:
        if out.as_json:
            out.document({"import": made, "plan": plan, "delivery": None})
        out.line("Nothing was changed." if args.dry_run else "There is nothing to do.")
        return DONE
    delivery = venn.deliver(pairing, made["id"], **order)
    with out.progress("Bringing in") as follow:
        job = venn.wait(delivery["job"], follow, seconds=3600)
    failed = list(venn.entries(pairing, made["id"], state="failed"))
    if out.as_json:
        out.document(
            {
                "import": venn.import_of(pairing, made["id"]),
                "plan": plan,
                "delivery": delivery | {"job": job, "words": job["message"]},
                "failed": failed,
            }
        )
    out.line(
        f"Done: {job['message']}. Take it out again with: vennpair cartridge undo {quote(args.shell)}"
    )
    show_entries(failed, out, course_clock(venn, pairing), "not done")
    return FINDINGS if failed else DONE


def _show_plan(plan: DeliveryPlan, out: Output) -> None:
    where = (
        f"a new folder '{plan['new_folder']}'"
        if plan["new_folder"]
        else (f"'{plan['folder']}'" if plan["folder"] else "the top of the outline")
    )
    counts = ", ".join(
        f"{plan['counts'][action]} {words}"
        for action, words in ACTIONS.items()
        if plan["counts"][action]
    )
    out.line(f"Into {where}: {counts or 'nothing'}; {plan['columns']} with a column.")
    rows = [
        (
            "  " * row["depth"] + row["title"],
            row["kind"],
            ACTIONS.get(row["action"], row["action"]),
            "shown" if row["visible"] else "hidden",
            row["points"],
            " ".join(filter(None, (row["why"], row["remedy"]))),
        )
        for row in plan["entries"]
    ]
    out.table(
        ("entry", "kind", "will be", "learners", "points", "why"),
        rows,
        styles=[_STYLES.get(row["action"], "") for row in plan["entries"]],
    )


def show_entries(entries: Sequence[Entry], out: Output, at: Clock, heading: str = "entry") -> None:
    """Show entries with what became of them."""
    rows = [
        (
            "  " * row["depth"] * (heading == "entry") + row["shown_title"],
            row["kind"],
            row["points"],
            at(row["due_at"]),
            _state(row),
            row["message"] or row["trouble_message"] or row["naming_reason"],
        )
        for row in entries
    ]
    styles = [
        "bold red" if row["state"] == "failed" else "yellow" if row["blocked"] else ""
        for row in entries
    ]
    if rows:
        out.table((heading, "kind", "points", "due", "state", "about it"), rows, styles=styles)


def _state(row: Entry) -> str:
    if row["state"] == "untouched":
        return "cannot come in" if row["blocked"] else "not brought in"
    return row["state"].replace("_", " ")


def show_findings(findings: Sequence[Mapping[str, Any]], out: Output) -> None:
    """Show findings; of many with one code only the first three, and how many more."""
    counted, rows = Counter[str](), []
    for each in findings:
        counted[each["code"]] += 1
        if counted[each["code"]] <= SHOWN_OF_A_CODE:
            rows.append(
                (each["level"], each["code"], each["where"], each["message"], each["remedy"])
            )
    out.table(
        ("level", "code", "where", "what", "what to do"),
        rows,
        styles=[LEVEL_STYLES.get(row[0], "") for row in rows],
        empty="Nothing is wrong with it.",
    )
    for code, count in counted.items():
        if count > SHOWN_OF_A_CODE:
            out.line(
                f"and {count - SHOWN_OF_A_CODE} more of {code} (all with --format json)", "dim"
            )
