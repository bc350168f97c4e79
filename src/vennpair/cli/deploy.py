"""Deploying items into a shell."""

from __future__ import annotations

import argparse
from collections.abc import Sequence

from vennpair.cli.choose import choose, choose_pairing
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client.types import Item, Plan


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    deploy = commands.add_parser("deploy", help="place items in the shell, with their columns", description="Place items as links, graded ones with a column. Shows the plan first; --dry-run stops there.")
    deploy.add_argument("shell", help="label, title or id of the paired shell")
    deploy.add_argument("items", nargs="*", metavar="ITEM", help="titles or ids")
    deploy.add_argument("--all-graded", action="store_true", help="every graded item")
    deploy.add_argument("--unit", action="append", default=[], help="every graded or practice item of a unit; may be repeated")
    deploy.add_argument("--folder", default="", help="title or id of a folder; made where it is not there; left out: the top")
    deploy.add_argument("--undated", choices=("ask", "column", "link"), default="ask", help="what graded items without a due date become (ask: they are left out)")
    deploy.add_argument("--dry-run", action="store_true", help="show what would happen, change nothing")
    deploy.set_defaults(run=run_deploy)


def run_deploy(args: argparse.Namespace, out: Output) -> int:
    """Plan, then deploy."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        chosen = _chosen(args, list(venn.items(pairing)))
        plan = venn.plan(pairing, chosen, args.folder, args.undated)
        if not out.as_json or args.dry_run:
            _show(plan, out)
        if args.dry_run or not plan["links"]:
            if out.as_json and not args.dry_run:
                out.document({"plan": plan, "rollout": None})
            out.line("Nothing was changed." if args.dry_run else "There is nothing to do.")
            return DONE
        rollout = venn.deploy(pairing, chosen, args.folder, args.undated)
        with out.progress("Deploying") as follow:
            venn.wait(rollout["job"], follow)
        rollout = venn.rollout(pairing, rollout["id"])
    failed = [step for step in rollout["steps"] if step["state"] == "failed"]
    if out.as_json:
        out.document({"plan": plan, "rollout": rollout})
    out.line(f"Done: {rollout['job']['message']}.")
    if failed:
        out.table(("not done", "kind", "why"), [(step["title"], step["kind"], step["message"]) for step in failed], styles=["bold red"] * len(failed))
    return FINDINGS if failed else DONE


def _chosen(args: argparse.Namespace, items: Sequence[Item]) -> list[str]:
    """Return the ids that are meant, in the publisher's order."""
    ids = {choose("item", items, wanted, lambda row: (row["shown_title"], row["title"]), f"items {args.shell}")["id"] for wanted in args.items}
    units = {unit.casefold() for unit in args.unit}
    for item in items:
        in_unit = any(item["unit"].casefold().startswith(unit) for unit in units) and item["kind"] in {"graded", "practice"}
        if (args.all_graded and item["kind"] == "graded") or in_unit:
            ids.add(item["id"])
    if not ids:
        raise Stop(USAGE, "no_items", "Which items?", "Name them, or use --all-graded or --unit; list them with: vennpair items SHELL")
    return [item["id"] for item in items if item["id"] in ids]


def _show(plan: Plan, out: Output) -> None:
    if out.as_json:
        out.document({"plan": plan, "dry_run": True})
        return
    where = f"a new folder '{plan['new_folder']}'" if plan["new_folder"] else (f"'{plan['folder']}'" if plan["folder"] else "the top of the outline")
    links = len(plan["links"])
    out.line(f"Into {where}: {links} link{'s' * (links != 1)}, {plan['columns']} of them with a column; {len(plan['unchanged'])} placed already.")
    rows = [(link["title"], link["points"], link["due_at"][:16].replace("T", " "), "shown" if link["visible"] else "hidden") for link in plan["links"]]
    if rows:
        out.table(("will be placed", "points", "due", "learners"), rows)
    if plan["notices"]:
        out.table(("look at", "what", "what to do"), [(each["title"], each["message"], each["remedy"]) for each in plan["notices"]], styles=["yellow"] * len(plan["notices"]))
