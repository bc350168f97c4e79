"""Kept right: what changed since, links seen as a learner, and what travels."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from shlex import quote

from vennpair.cli.choose import choose, choose_pairing
from vennpair.cli.connect import Commands
from vennpair.cli.deploy import follow
from vennpair.cli.exits import DONE, FINDINGS, REFUSED, Stop
from vennpair.cli.output import LEVEL_STYLES, Output
from vennpair.cli.session import connect
from vennpair.cli.several import for_several
from vennpair.client import VennPair
from vennpair.client.schema import Drift, Placement, Watch
from vennpair.core.counting import many

FIELDS = ("opens", "visible", "date", "score")


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    drift = commands.add_parser(
        "changes",
        aliases=["drift"],
        help="what changed on either side since it was deployed; follow or keep it",
    )
    drift.add_argument("shell", help="label, title or id of the paired shell")
    drift.add_argument(
        "items",
        nargs="*",
        metavar="ITEM",
        help="with --follow or --keep: only changes of these links; left out: all",
    )
    drift.add_argument(
        "--last", action="store_true", help="show what the last look found; do not look again"
    )
    drift.add_argument(
        "--kind", action="append", default=[], help="only changes of this kind; may be repeated"
    )
    way = drift.add_mutually_exclusive_group()
    way.add_argument(
        "--follow",
        action="store_true",
        help="bring the publisher's changes into the shell, and put back what was deployed",
    )
    way.add_argument("--keep", action="store_true", help="keep what the shell has")
    way.add_argument(
        "--always", choices=("ask", "follow", "keep"), help="how changes are handled from now on"
    )
    drift.add_argument(
        "--dry-run", action="store_true", help="say what would be done, change nothing"
    )
    for_several(drift, run_drift)
    view = commands.add_parser(
        "learner-view", help="open every link as a test learner and report the result"
    )
    view.add_argument("shell", help="label, title or id of the paired shell")
    view.add_argument("items", nargs="*", metavar="ITEM", help="only these links")
    view.add_argument(
        "--last", action="store_true", help="show the last check; do not open anything"
    )
    view.add_argument(
        "--dry-run", action="store_true", help="say which links would be opened, open none"
    )
    for_several(view, run_learner_view)
    travels = commands.add_parser(
        "travels", help="what travels between the two sides, and what is left to do by hand"
    )
    travels.add_argument("shell", help="label, title or id of the paired shell")
    travels.set_defaults(run=run_travels)


def run_drift(args: argparse.Namespace, out: Output) -> int:
    """Look, show, and meet what was found."""
    met, way = None, "follow" if args.follow else "keep" if args.keep else ""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        watch = _watched(venn, pairing, args, out)
        drifts = [row for row in watch["drifts"] if _asked_for(row, args)]
        _show_drifts(drifts, out)
        if way and drifts and not args.dry_run:
            made = venn.mend(pairing, drifts, way)
            met = follow(venn, [made], out, "Fixing")[0] if made else None
            out.line(
                f"{many(len(drifts), 'change was', 'changes were')}"
                f" {'followed' if args.follow else 'kept'}"
                + (f": {met['job']['message']}." if met else ".")
            )
        elif way and drifts:
            out.line(f"Would {way} {many(len(drifts), 'change')}. Nothing was changed.")
        elif way:
            out.line(f"There is nothing to {way}. Nothing was changed.")
        else:
            out.line(
                f"Changes are handled this way: {watch['way']}."
                + (" Handle it with --follow or --keep." if drifts else "")
            )
    if out.as_json:
        out.document(watch | {"drifts": drifts, "rollout": met})
    return FINDINGS if any(row["level"] == "error" for row in drifts) and not way else DONE


def _watched(venn: VennPair, pairing: str, args: argparse.Namespace, out: Output) -> Watch:
    """Look for changes, unless only the last look or another way of handling them is asked for."""
    if args.always and not args.dry_run:
        return venn.choose_way(pairing, args.always)
    if not args.always and not args.last:
        with out.progress("Looking") as show:
            venn.wait(venn.look_for_drift(pairing), show)
    return venn.watch(pairing)


def _asked_for(row: Drift, args: argparse.Namespace) -> bool:
    title = row["title"].casefold()
    named = not args.items or any(each.casefold() in title for each in args.items)
    return named and (not args.kind or row["kind"] in args.kind)


def _show_drifts(drifts: Sequence[Drift], out: Output) -> None:
    rows = [
        (
            row["level"],
            row["side"],
            row["title"],
            row["kind"].replace("_", " "),
            row["before"],
            row["after"],
            row["breaks"],
        )
        for row in drifts
    ]
    out.table(
        ("level", "side", "title", "what", "deployed", "now", "what it breaks"),
        rows,
        styles=[LEVEL_STYLES.get(row["level"], "") for row in drifts],
        empty="Nothing has changed since placing.",
    )


def run_learner_view(args: argparse.Namespace, out: Output) -> int:
    """Open links, or show the last check."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        if args.last:
            done = venn.learner_checks(pairing)
            if not done:
                raise Stop(
                    REFUSED,
                    "never_checked",
                    "No link was opened as a test learner yet.",
                    "Leave --last out.",
                )
            check = done[0]
        else:
            there = list(venn.placements(pairing))
            chosen = [
                choose(
                    "placement",
                    there,
                    each,
                    lambda row: (row["title"], row["item_title"]),
                    f"placements {quote(args.shell)}",
                )
                for each in args.items
            ]
            if args.dry_run:
                placed = [each for each in there if each["state"] == "placed"]
                return _links_to_open(chosen or placed, out)
            started = venn.check_as_learner(pairing, [each["id"] for each in chosen])
            with out.progress("Opening links") as show:
                venn.wait(started["job"], show)
            check = venn.learner_check(pairing, started["id"])
    if out.as_json:
        out.document(check)
    troubled = [row for row in check["rows"] if row["findings"]]
    out.table(
        ("link", *FIELDS),
        [(row["title"], *(dict(row)[name] for name in FIELDS)) for row in check["rows"]],
    )
    findings = [(row["title"], finding) for row in troubled for finding in row["findings"]]
    out.table(
        ("look at", "what", "what to do"),
        [(title, each["message"], each["remedy"]) for title, each in findings],
        styles=[LEVEL_STYLES.get(each["level"], "") for _, each in findings],
    )
    out.line(f"{check['job']['message']}.")
    return FINDINGS if any(each["level"] == "error" for _, each in findings) else DONE


def _links_to_open(links: Sequence[Placement], out: Output) -> int:
    """Say which links would be opened, and what that writes."""
    if out.as_json:
        rows = [{"id": each["id"], "title": each["title"]} for each in links]
        out.document({"links": rows, "dry_run": True})
    out.table(("link", "column"), [(each["title"], each["column"]) for each in links])
    out.line(
        "Each would be opened as the platform's test learner, and a test score for that learner"
        " sent to its column and removed. Nothing was opened."
    )
    return DONE


def run_travels(args: argparse.Namespace, out: Output) -> int:
    """Show the table."""
    with connect() as venn:
        found = venn.travels(choose_pairing(venn, args.shell))
    if out.as_json:
        out.document(found)
    out.line(found["why"])
    out.table(
        ("what", "travels", "how", "by hand"),
        [
            (
                row["what"],
                {"once": "when placed"}.get(row["travels"], row["travels"]),
                row["how"],
                row["by_hand"],
            )
            for row in found["rows"]
        ],
    )
    return DONE
