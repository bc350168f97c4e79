"""Whether the grades may be submitted, when a pairing is compared automatically, and how one is
told.
"""

from __future__ import annotations

import argparse
from datetime import date

from vennpair.cli.choose import choose_pairing
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.cli.several import for_several

STYLES = {"open": "bold red", "look": "yellow", "well": "dim"}
NONE = "none"


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    ready = commands.add_parser(
        "ready",
        help="whether the grades may be submitted, and what is still open",
        description="Exits 1 where something is open.",
    )
    ready.add_argument("shell", help="label, title or id of the paired shell")
    ready.set_defaults(run=_run_ready)
    schedule = commands.add_parser(
        "schedule",
        help="when a pairing is compared automatically, and until when its grades are due",
    )
    schedule.add_argument("shell", help="label, title or id of the paired shell")
    schedule.add_argument(
        "--nightly",
        action=argparse.BooleanOptionalAction,
        help="compare it every night, in the course's zone",
    )
    schedule.add_argument(
        "--grades-due",
        metavar="DATE",
        help=(
            f"the day by which grades are submitted, like 2027-05-12, or {NONE}; the digest says"
            " before it what is open"
        ),
    )
    schedule.add_argument(
        "--dry-run", action="store_true", help="say what would change, change nothing"
    )
    for_several(schedule, _run_schedule)
    digest = commands.add_parser(
        "digest", help="how often you are told what the nights' comparisons found"
    )
    digest.add_argument(
        "wish",
        nargs="?",
        choices=("daily", "weekly", "never"),
        help="without it, say how it is set",
    )
    digest.set_defaults(run=_run_digest)


def _run_ready(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        said = venn.statement(choose_pairing(venn, args.shell))
    if out.as_json:
        out.document(said)
    out.line(said["sentence"], "bold")
    rows = [(line["level"], line["sentence"], line["remedy"]) for line in said["lines"]]
    out.table(("", "what", "do"), rows, styles=[STYLES[line["level"]] for line in said["lines"]])
    if said["schedule"]["grades_due"]:
        out.line(f"Grades are due on {said['schedule']['grades_due']}.")
    return DONE if said["ready"] else FINDINGS


def _run_schedule(args: argparse.Namespace, out: Output) -> int:
    changes: dict[str, bool | str | None] = {}
    if args.nightly is not None:
        changes["nightly"] = args.nightly
    if args.grades_due is not None:
        changes["grades_due"] = None if args.grades_due == NONE else _day(args.grades_due)
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        now = venn.statement(pairing)["schedule"]
        if changes and not args.dry_run:
            now = venn.change_schedule(pairing, **changes)
    shown = {**now, **changes}
    if out.as_json:
        out.document({**shown, "dry_run": args.dry_run})
    nights = (
        "every night, after three in the course's zone" if shown["nightly"] else "on demand only"
    )
    due = f"on {shown['grades_due']}" if shown["grades_due"] else "on no known day"
    unchanged = " Nothing was changed." if args.dry_run else ""
    out.line(f"Compared {nights}; grades are due {due}.{unchanged}")
    return DONE


def _day(text: str) -> str:
    try:
        return date.fromisoformat(text).isoformat()
    except ValueError as error:
        raise Stop(
            USAGE, "usage", f"'{text}' is not a day.", f"Write it like 2027-05-12, or {NONE}."
        ) from error


def _run_digest(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        me = venn.change_digest(args.wish) if args.wish else venn.me()
    if out.as_json:
        out.document({"digest": me["digest"]})
    words = {
        "daily": "every morning on which something is new",
        "weekly": "on Mondays, where something is open",
        "never": "never",
    }
    out.line(
        f"You are told {words[me['digest']]}; in the week before grades are due also what keeps"
        " them back."
        if me["digest"] != "never"
        else "You are told nothing by mail or notice of the nights' comparisons."
    )
    return DONE
