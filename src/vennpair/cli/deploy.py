"""Deploying items into one shell or several."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path
from shlex import quote

from vennpair.cli.choose import choose_pairing
from vennpair.cli.clock import Clock, clock_of
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, USAGE, Stop
from vennpair.cli.hints import do
from vennpair.cli.imports import read_package
from vennpair.cli.output import LEVEL_STYLES, Output
from vennpair.cli.session import connect
from vennpair.cli.sheet import (
    add_options,
    by_unit,
    chosen_items,
    left_out_of_units,
    read_sheet,
    sections_of,
    sheet_of,
)
from vennpair.client import VennPair
from vennpair.client.schema import (
    Item,
    Plan,
    Rollout,
    Row,
    WholeRollout,
)
from vennpair.core.counting import many
from vennpair.core.deploy.page_text import plainly

MANY_AT_TOP = 5  # new links at the top of the outline, from which on that is asked about


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    deploy = commands.add_parser(
        "deploy",
        help="place items in shells, with their columns",
        description=(
            "Place items as links, graded ones with a column. Shows the plan first; --dry-run stops"
            " there."
        ),
    )
    deploy.add_argument("shell", help="label, title or id of the paired shell")
    deploy.add_argument("items", nargs="*", metavar="ITEM", help="titles or ids")
    deploy.add_argument("--all-graded", action="store_true", help="every graded item")
    deploy.add_argument(
        "--unit",
        action="append",
        default=[],
        help="everything of a unit that can be placed; may be repeated",
    )
    deploy.add_argument(
        "--subject",
        action="append",
        default=[],
        help="everything about a subject that can be placed; may be repeated",
    )
    deploy.add_argument(
        "--file",
        default="",
        metavar="SHEET",
        help=(
            "a sheet in TOML or JSON that says the same as the options (docs/deploying.md); options"
            " go before it"
        ),
    )
    add_options(deploy)
    deploy.add_argument(
        "--cartridge",
        metavar="FILE",
        help="write the links as a thin cartridge to upload, instead of placing them",
    )
    deploy.add_argument(
        "--dry-run", action="store_true", help="show what would happen, change nothing"
    )
    deploy.set_defaults(run=run_deploy)


def run_deploy(args: argparse.Namespace, out: Output) -> int:
    """Plan, then deploy."""
    file = read_sheet(args.file)
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        sections = sections_of(venn, args, file)
        items = _items(venn, pairing, out)
        for each in sections:
            theirs = _items(venn, each["pairing"], out)
            each |= {"folders": by_unit(each["folders"], theirs)} if "folders" in each else {}
        chosen = chosen_items(args, file, items)
        _say_left_out(left_out_of_units(args, file, items), args.shell, out)
        sheet = sheet_of(
            args, file, items, venn.outline(pairing) if args.after and args.after != "start" else []
        )
        if args.cartridge:
            return _write(venn, pairing, chosen, sheet, Path(args.cartridge), sections, out)
        plans = venn.plan(pairing, chosen, sections=sections, **sheet)
        if not out.as_json:
            for plan in plans:
                _show(plan, out, len(plans) > 1)
        writes = any(plan["make"] or plan["change"] for plan in plans)
        if args.dry_run or not writes:
            if out.as_json:
                out.document(
                    {"shells": plans, "dry_run": args.dry_run}
                    if args.dry_run
                    else {"shells": plans, "rollouts": []}
                )
            out.line("Nothing was changed." if args.dry_run else "There is nothing to do.")
            return DONE
        rollouts = follow(
            venn, venn.deploy(pairing, chosen, sections=sections, **sheet), out, "Deploying"
        )
    if out.as_json:
        out.document({"shells": plans, "rollouts": rollouts})
    return report(rollouts, out)


def _say_left_out(titles: Sequence[str], shell: str, out: Output) -> None:
    """Say which readings and videos of the named units are not placed, and how they come in."""
    if not titles:
        return
    named = ", ".join(titles[:5]) + (", …" if len(titles) > 5 else "")
    verb = many(len(titles), "reading or video is", "readings and videos are")
    out.remark(
        f"{verb} left out, as content is brought in and not placed as a link: {named}. Bring it in"
        f" with: vennpair cartridge bring {quote(shell)}"
    )


def _items(venn: VennPair, pairing: str, out: Output) -> list[Item]:
    """Return the items of a pairing; a homework course of which nothing is known yet is read first,
    which changes nothing on either side.
    """
    items = list(venn.items(pairing))
    if items:
        return items
    made = read_package(venn, pairing, None, out)
    out.remark(
        f"{venn.pairing(pairing)['shell']['label']}: its homework course was read first,"
        f" {made['job']['message']}."
    )
    return list(venn.items(pairing))


def follow(
    venn: VennPair, rollouts: Sequence[Rollout], out: Output, doing: str
) -> list[WholeRollout]:
    """Wait for rollouts, showing progress; return them as they ended.

    Raises Refusal where one failed.
    """
    ended = []
    for each in rollouts:
        with out.progress(f"{doing} in {each['shell']}") as show:
            venn.wait(each["job"], show, seconds=1800)
        ended.append(venn.rollout(each["pairing"], each["id"]))
    return ended


def report(rollouts: Sequence[WholeRollout], out: Output) -> int:
    """Say how rollouts ended and what could not be done; return the exit code."""
    failed = [
        (each["shell"], step)
        for each in rollouts
        for step in each["steps"]
        if step["state"] in {"failed", "stopped"}
    ]
    for each in rollouts:
        out.line(f"{each['shell']}: {each['job']['message']}.")
    if failed:
        out.table(
            ("shell", "not done", "kind", "why"),
            [
                (shell, step["title"], step["kind"].replace("_", " "), step["message"])
                for shell, step in failed
            ],
            styles=["bold red"] * len(failed),
        )
        out.line("Do just those again with: vennpair rollouts retry SHELL")
    return FINDINGS if failed else DONE


def _write(
    venn: VennPair,
    pairing: str,
    chosen: Sequence[str],
    sheet: dict[str, object],
    target: Path,
    sections: Sequence[object],
    out: Output,
) -> int:
    if sections:
        raise Stop(USAGE, "usage", "A cartridge is written for one shell.", "Leave --also out.")
    try:
        venn.write_links(pairing, chosen, target, **sheet)
    except OSError as error:
        raise Stop(
            USAGE, "unwritable", f"{target}: {error.strerror or error}.", "Choose another path."
        ) from error
    if out.as_json:
        out.document({"file": str(target), "items": len(chosen)})
    out.line(
        f"{target} was written. Upload it in the platform; each link is claimed, with its column,"
        " when it is first opened."
    )
    return DONE


def _show(plan: Plan, out: Output, several: bool) -> None:
    new = [folder["title"] for folder in plan["folders"]]
    shift = f", dates shifted by {many(plan['shift_days'], 'day')}" if plan["shift_days"] else ""
    parts = [
        f"{plan['make']} new link{'s' * (plan['make'] != 1)}, {plan['columns']} with a new column"
    ]
    parts += [f"{plan['change']} changed"] if plan["change"] else []
    parts += [f"{plan['same']} placed already"] if plan["same"] else []
    out.line(f"{plan['shell']}{shift}: {'; '.join(parts)}.", "bold" if several else "")
    if new:
        out.line(f"New folders: {', '.join(new)}.")
    if plan["categories"]:
        out.line(f"New categories: {', '.join(plan['categories'])}.")
    if plan["lost"]:
        out.line(f"Not in this section's homework course: {', '.join(plan['lost'])}.", "yellow")
    clock = clock_of(plan["zone"])
    rows = [_row(row, clock) for row in plan["rows"] if row["action"] in {"make", "change"}]
    if rows:
        out.table(
            ("what", "title", "folder", "points", "due", "category", "learners", "changes"), rows
        )
    if plan["page_html"]:
        out.line("The page's text will be:")
        out.line(plainly(plan["page_html"]), "dim")
    top = [row for row in plan["rows"] if row["action"] == "make" and not row["folder"]]
    if len(top) >= MANY_AT_TOP and not plan["page_html"]:
        out.line(
            f"{many(len(top), 'link')} would be at the top of the outline. To put them into"
            " folders: --per-unit, or --folder.",
            "yellow",
        )
    if plan["notices"]:
        styles = [LEVEL_STYLES.get(each["level"], "") for each in plan["notices"]]
        out.table(
            ("look at", "what", "what to do"),
            [
                (each["title"], each["message"], do(each["code"], each["remedy"]))
                for each in plan["notices"]
            ],
            styles=styles,
        )


def _row(row: Row, at: Clock) -> tuple[object, ...]:
    target = row["target"]
    shown = (
        "hidden"
        if not target["visible"]
        else f"from {at(target['shown_from'])}"
        if target["shown_from"]
        else "shown"
    )
    changes = "; ".join(
        f"{each['field'].replace('_', ' ')}: {each['before'] or 'none'} → {each['after'] or 'none'}"
        for each in row["differences"]
    )
    return (
        row["action"],
        target["title"],
        row["folder_title"] or "the top",
        target["points"],
        at(target["due_at"]),
        target["category"],
        shown,
        changes,
    )
