"""One column with a total of graded items: made, shown, saved, sent, removed."""

from __future__ import annotations

import argparse
from pathlib import Path
from shlex import quote
from typing import Any

from vennpair.cli.choose import choose, choose_pairing
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, REFUSED, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import VennPair
from vennpair.core.counting import many


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    average = commands.add_parser(
        "average",
        help="one column with a total of graded items: by shares, points or category weights",
    )
    average.add_argument("shell", help="label, title or id of the paired shell")
    average.add_argument(
        "items",
        nargs="*",
        metavar="ITEM",
        help="which graded items count; left out: all with points",
    )
    average.add_argument(
        "--title", default="Homework average", help="the column's title (default: Homework average)"
    )
    average.add_argument("--points", default="100", help="its points (default: 100)")
    average.add_argument(
        "--category",
        action="append",
        default=[],
        help="all graded items of a category count (may be repeated)",
    )
    average.add_argument(
        "--weighting",
        choices=("equal", "points", "categories"),
        default="equal",
        help="how items weigh (default: equal)",
    )
    average.add_argument(
        "--weight",
        action="append",
        default=[],
        metavar="CATEGORY=NUMBER",
        help="a category's weight, for --weighting categories (may be repeated)",
    )
    average.add_argument(
        "--missing",
        choices=("until_due", "ignored", "zero"),
        default="until_due",
        help="what missing work counts (default: nothing until it is due, zero after)",
    )
    average.add_argument("--places", type=int, default=2, help="decimals (default: 2)")
    average.add_argument(
        "--keep-up", action="store_true", help="send it automatically while the relay is on"
    )
    average.add_argument(
        "--arithmetic", action="store_true", help="show how each total comes about"
    )
    average.add_argument("--to", type=Path, metavar="FILE", help="save the averages as a table")
    average.add_argument("--send", action="store_true", help="relay the averages into the column")
    average.add_argument(
        "--remove",
        action="store_true",
        help="remove the column, as long as it holds no score",
    )
    average.add_argument(
        "--dry-run", action="store_true", help="say what would happen, change nothing"
    )
    average.set_defaults(run=run_average)


def run_average(args: argparse.Namespace, out: Output) -> int:
    """Make the column where it is not there, show the totals, and save, send or remove them."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        totals = venn.averages(pairing)
        made = next(
            (each for each in totals if each["title"].casefold() == args.title.casefold()), None
        )
        if args.remove:
            return _remove(venn, pairing, made, totals, args, out)
        if made is None:
            made = _make(venn, pairing, args, out)
        if made is None:
            return DONE
        rows = venn.average_rows(pairing, made["id"])
        if args.to and not args.dry_run:
            venn.fetch_average(pairing, made["id"], args.to)
            out.line(f"Saved {args.to}.")
        if args.send and not args.dry_run:
            with out.progress("Sending") as show:
                out.line(f"{venn.wait(venn.send_average(pairing, made['id']), show)['message']}.")
    if out.as_json:
        out.document(made | {"rows": rows})
    out.table(
        ("learner", "total", "of"), [(row["learner"], row["score"], made["points"]) for row in rows]
    )
    for row in rows if args.arithmetic else []:
        out.line(f"{row['learner']}: {'; '.join(row['arithmetic']) or 'nothing counts yet'}")
    return DONE


def _make(
    venn: VennPair, pairing: str, args: argparse.Namespace, out: Output
) -> dict[str, Any] | None:
    """Make the column; None where it is only said what it would be. Raises Stop."""
    graded = [item for item in venn.items(pairing, kind="graded") if item["points"]]
    chosen = [
        choose(
            "item",
            graded,
            each,
            lambda row: (row["shown_title"], row["title"]),
            f"items {quote(args.shell)}",
        )["id"]
        for each in args.items
    ] or ([] if args.category else [item["id"] for item in graded])
    how = {
        "categories": args.category,
        "weighting": args.weighting,
        "weights": dict(_weight(each) for each in args.weight),
        "missing": args.missing,
        "places": args.places,
        "keeps_up": args.keep_up,
    }
    which = f"{many(len(chosen), 'item')}" + (
        f" and the categories {', '.join(args.category)}" if args.category else ""
    )
    out.line(
        f"A column '{args.title}' with {args.points} points"
        f" {'would show' if args.dry_run else 'shows'} a total of {which}, by {args.weighting}."
    )
    if args.dry_run:
        if out.as_json:
            out.document({"title": args.title, "items": chosen, "dry_run": True})
        return None
    return venn.make_average(pairing, args.title, args.points, chosen, **how)


def _remove(
    venn: VennPair,
    pairing: str,
    made: dict[str, Any] | None,
    totals: list[dict[str, Any]],
    args: argparse.Namespace,
    out: Output,
) -> int:
    if made is None:
        raise Stop(
            REFUSED,
            "no_total",
            f"There is no column '{args.title}' with a total.",
            f"The shell has: {', '.join(repr(each['title']) for each in totals) or 'none'}.",
        )
    if not args.dry_run:
        venn.remove_average(pairing, made["id"])
    if out.as_json:
        out.document({"title": made["title"], "removed": True, "dry_run": args.dry_run})
    would = "would be removed, if it holds no score" if args.dry_run else "was removed"
    out.line(f"The column '{made['title']}' {would}.")
    return DONE


def _weight(text: str) -> tuple[str, str]:
    name, mark, number = text.rpartition("=")
    if not mark or not number.replace(".", "", 1).isdigit():
        raise Stop(
            USAGE,
            "bad_weight",
            f"'{text}' is not a weight.",
            "Write it as CATEGORY=NUMBER, such as Quizzes=70.",
        )
    return name, number
