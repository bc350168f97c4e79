"""What needs you today, across all shells; and the search."""

from __future__ import annotations

import argparse

from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS
from vennpair.cli.output import Output
from vennpair.cli.session import connect

STYLES = {"urgent": "bold red", "soon": "yellow", "note": "dim"}


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    today = commands.add_parser(
        "today",
        help="what needs you today, across all shells, most urgent first",
        description="Exits 1 where something is urgent.",
    )
    today.set_defaults(run=_run_today)
    search = commands.add_parser("search", help="find shells, items and learners by a few letters")
    search.add_argument("words", nargs="+", help="words that must all be there")
    search.set_defaults(run=_run_search)


def _run_today(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        found, on_hold = venn.today(), venn.me()["on_hold"]
    if on_hold:
        out.remark(f"Venn Pair is on hold, so nothing is sent or read: {on_hold}.")
    if out.as_json:
        out.document(found)
    else:
        last = found["days"][-1]
        out.line(
            f"{found['live']} of {found['shells']} shells are live; {last['received']} scores"
            f" received and {last['delivered']} delivered today, {found['waiting']} on their way."
        )
        rows = [(need["shell"], need["what"], need["remedy"]) for need in found["needs"]]
        out.table(
            ("shell", "what", "do"), rows, styles=[STYLES[need["level"]] for need in found["needs"]]
        )
        if not rows:
            out.line("Nothing needs you today.")
        if found["more"]:
            out.line(f"{found['more']} more are not listed.")
    return FINDINGS if any(need["level"] == "urgent" for need in found["needs"]) else DONE


def _run_search(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        found = venn.search(" ".join(args.words))
    if out.as_json:
        out.document(found)
    else:
        rows = [(each["kind"], each["title"], each["detail"]) for each in found]
        out.table(("kind", "name", "where"), rows)
        if not rows:
            out.line("Nothing matches. Try fewer letters; two are needed at least.")
    return DONE
