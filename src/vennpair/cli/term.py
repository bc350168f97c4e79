"""Term sheets: what should be, as a file; what differs from it, shown and brought about."""

from __future__ import annotations

import argparse
import json
import tomllib
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from vennpair.cli.choose import choose_course, choose_shell
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, REFUSED, UNREADABLE, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.cli.set_up import followed, report
from vennpair.cli.sheet import PLACEABLE, by_unit, starts
from vennpair.cli.term_differences import Row, rows_of, show
from vennpair.cli.term_export import run_export
from vennpair.client import VennPair
from vennpair.client.schema import Item, SectionPlan
from vennpair.core.counting import many


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    term = commands.add_parser(
        "term",
        help="a term's shells as a file: what should be, what differs, bring it about",
        description=(
            "A term sheet is a TOML file that says what should be in a term's shells"
            " (docs/term-sheets.md, docs/term-sheet.schema.json)."
        ),
    )
    below = term.add_subparsers(dest="term", required=True, metavar="COMMAND")
    for name, words, run in (
        ("preview", "show what differs from the sheet, and why; change nothing", run_preview),
        ("run", "bring about what the sheet says; twice does nothing", run_term),
    ):
        command = below.add_parser(name, help=words)
        command.add_argument("file", type=Path, help="the sheet, in TOML or JSON")
        command.add_argument(
            "--start",
            metavar="DATE",
            help="a day of the term's first week: dates move there by whole weeks",
        )
        command.add_argument(
            "--shell",
            action="append",
            default=[],
            metavar="OLD=NEW",
            help="this shell in the place of one that the sheet names, with the course that fits;"
            " may be repeated",
        )
        if name == "run":
            command.add_argument(
                "--agree", action="store_true", help="agree that each shell is read and written"
            )
            command.add_argument(
                "--dry-run", action="store_true", help="the same as: vennpair term preview"
            )
        command.set_defaults(run=run)
    export = below.add_parser("export", help="write the sheet of what is")
    export.add_argument("shell", nargs="+", help="label, title or id of each shell")
    export.add_argument("--to", type=Path, metavar="FILE", help="write it to a file")
    export.set_defaults(run=run_export)


def run_preview(args: argparse.Namespace, out: Output) -> int:
    """Show what differs; exit 1 where anything does."""
    sheet = _sheet(args)
    with connect() as venn:
        wanted = _sections(venn, sheet, args)
        paired = [each for each in wanted if each["paired"]]
        plans = _planned(venn, sheet, paired) if paired else []
        rows = [*_pairings(wanted), *(row for plan in plans for row in rows_of(plan))]
    show(rows, plans, out)
    if out.as_json:
        out.document({"differences": rows, "sections": plans, "dry_run": True})
    return FINDINGS if rows else DONE


def run_term(args: argparse.Namespace, out: Output) -> int:
    """Pair what is not paired, show what differs, and bring it about as one set-up."""
    if args.dry_run:
        return run_preview(args, out)
    sheet = _sheet(args)
    with connect() as venn:
        wanted = _sections(venn, sheet, args)
        new = _pairings(wanted)
        if new and not args.agree:
            show(new, [], out)
            raise Stop(
                REFUSED,
                "consent_needed",
                f"{many(len(new), 'shell')} would be paired, so each is read and written from then"
                " on.",
                "Give the command with --agree.",
            )
        found = venn.begin_set_up(
            [(each["shell"], each["course"] or None) for each in wanted], agree=args.agree
        )
        found = followed(venn, found["id"], out, "Reading the courses")
        ready = [each for each in found["sections"] if each["stage"] == "ready"]
        if not ready:
            return report(found, out)
        wishes = wishes_of(venn, sheet, wanted, str(ready[0]["pairing"]))
        plans = venn.plan_set_up(found["id"], **wishes)
        rows = [row for plan in plans for row in rows_of(plan)]
        show([*new, *rows], plans, out)
        if not any(plan["writes"] for plan in plans) and len(ready) == len(wanted):
            venn.forget_set_up(found["id"])
            if out.as_json:
                out.document({"set_up": None, "differences": new, "sections": []})
            return DONE
        venn.start_set_up(found["id"], **wishes)
        return report(followed(venn, found["id"], out, "Bringing it about"), out)


def _sheet(args: argparse.Namespace) -> Any:
    """Read a term sheet. Raises Stop naming the file and each place that is wrong in it."""
    # Checking a sheet needs a library that takes longer to load than other commands take.
    from vennpair.core.deploy.term_sheet import BadTermSheet, read_term_sheet

    file: Path = args.file
    try:
        text = file.read_text("utf-8-sig")
        document = json.loads(text) if file.suffix == ".json" else tomllib.loads(text)
        if not isinstance(document, dict):
            raise ValueError("it is a list, not a table")
        return read_term_sheet(document | ({"start": args.start} if args.start else {}))
    except OSError as error:
        raise Stop(
            UNREADABLE, "unreadable", f"{file}: {error.strerror or error}.", "Check the path."
        ) from error
    except BadTermSheet as error:
        raise Stop(
            UNREADABLE,
            "bad_sheet",
            f"{file}: {'; '.join(error.troubles[:6])}.",
            "The keys are described in docs/term-sheets.md.",
        ) from error
    except ValueError as error:
        raise Stop(
            UNREADABLE,
            "bad_sheet",
            f"{file}: {error}.",
            "A term sheet is TOML, or JSON where the name ends in .json.",
        ) from error


def _sections(venn: VennPair, sheet: Any, args: argparse.Namespace) -> list[dict[str, Any]]:
    """Return the sheet's shells with their courses and pairings. Raises Stop."""
    other = {}
    for each in args.shell:
        old, mark, new = each.partition("=")
        if not mark:
            raise Stop(
                USAGE,
                "usage",
                f"'{each}' does not say which shell takes the place of another.",
                "Write it as: --shell 'HYD 210-01=HYD 210-11'",
            )
        other[old.strip()] = new.strip()
    if unknown := set(other) - {each.shell for each in sheet.section}:
        raise Stop(
            USAGE,
            "shell_unknown",
            f"The sheet has no shell '{sorted(unknown)[0]}'.",
            f"It has: {'; '.join(each.shell for each in sheet.section)}.",
        )
    rows = []
    for each in sheet.section:
        shell = choose_shell(venn, other.get(each.shell, each.shell))
        named = each.course if each.shell not in other and not shell["pairing"] else ""
        rows.append(
            {
                "shell": shell["id"],
                "label": shell["label"] or shell["title"],
                "paired": bool(shell["pairing"]),
                "pairing": shell["pairing"],
                "course": choose_course(venn, named, shell["id"])["id"] if named else "",
                "said": each,
            }
        )
    open_ = [each["shell"] for each in rows if not each["paired"] and not each["course"]]
    guessed = (
        {row["shell"]: row["course_name"] for row in venn.guess_several(open_)} if open_ else {}
    )
    for row in rows:
        row["course_name"] = row["said"].course or guessed.get(row["shell"], "")
    return rows


def _planned(venn: VennPair, sheet: Any, wanted: Sequence[dict[str, Any]]) -> list[SectionPlan]:
    """Plan shells that are paired already; nothing is left behind."""
    begun = venn.begin_set_up([(each["shell"], None) for each in wanted])
    try:
        found = venn.wait_for_set_up(begun["id"])
        ready = [each for each in found["sections"] if each["stage"] == "ready"]
        if not ready:
            return []
        wishes = wishes_of(venn, sheet, wanted, str(ready[0]["pairing"]))
        return venn.plan_set_up(begun["id"], **wishes)
    finally:
        venn.forget_set_up(begun["id"])


def wishes_of(
    venn: VennPair, sheet: Any, wanted: Sequence[dict[str, Any]], lead: str
) -> dict[str, Any]:
    """Return what a sheet asks of a set-up; items are those of the pairing ``lead``."""
    from vennpair.core.deploy.term_sheet import KEPT_FIELDS

    items = list(venn.items(lead))
    find = _Finder(items)
    said = {name: getattr(sheet, name) for name in KEPT_FIELDS}
    return said | {
        "folders": by_unit(sheet.folders, items),
        "items": _chosen(sheet, items, find),
        "wishes": find.wishes(sheet.item),
        "shifts": {
            each["shell"]: each["said"].shift_days
            for each in wanted
            if each["said"].shift_days is not None and sheet.start is None
        },
        "start": sheet.start.isoformat() if sheet.start else None,
        "scores": sheet.scores,
        "access": sheet.access,
        "navigation": sheet.navigation,
        "way": sheet.way,
        "total": sheet.total,
        "review": sheet.review,
        "readings": sheet.readings,
        "columns_shown": sheet.columns_shown,
        "own": {
            each["shell"]: {
                "folders": by_unit(each["said"].folders, items),
                "wishes": find.wishes(each["said"].item),
                "without": [find(title) for title in each["said"].without],
            }
            for each in wanted
        },
        "update": True,
        "move": True,
        "applies": ["all"],
        "complete": True,
    }


class _Finder:
    """Finds the items of one course by title, or by unit and title where several have it."""

    def __init__(self, items: Sequence[Item]) -> None:
        self._ids: dict[str, list[str]] = {}
        for each in items:
            names = {each["id"], each["shown_title"], each["title"]}
            names |= {f"{each['unit']} / {title}" for title in names}
            for name in names:
                self._ids.setdefault(name.casefold(), []).append(each["id"])

    def __call__(self, title: str) -> str:
        """Return the item's id. Raises Stop."""
        found = self._ids.get(title.strip().casefold(), [])
        if len(found) == 1:
            return found[0]
        raise Stop(
            REFUSED,
            "item_ambiguous" if found else "item_unknown",
            f"{many(len(found), 'item is', 'items are')} called '{title}'."
            if found
            else f"The homework course has no item '{title}'.",
            "Write it as 'unit / title'; list items with: vennpair items SHELL",
        )

    def wishes(self, said: dict[str, Any]) -> dict[str, Any]:
        """Return wishes by item."""
        return {
            self(title): wish.model_dump(mode="json", exclude_none=True)
            for title, wish in said.items()
        }


def _chosen(sheet: Any, items: Sequence[Item], find: _Finder) -> list[str]:
    named = [find(title) for title in sheet.items]
    for unit in sheet.units:
        fitting = [each for each in items if starts(each["unit"], unit.casefold())]
        if not fitting:
            units = dict.fromkeys(each["unit"] for each in items if each["unit"])
            raise Stop(
                REFUSED,
                "unit_unknown",
                f"There is no unit '{unit}'.",
                f"There are: {'; '.join(list(units)[:12])}.",
            )
        named += [each["id"] for each in fitting if each["kind"] in PLACEABLE]
    return list(dict.fromkeys(named))


def _pairings(wanted: Sequence[dict[str, Any]]) -> list[Row]:
    """Return what differs where a shell is not paired."""
    return [
        {
            "shell": each["label"],
            "what": "pair",
            "item": "",
            "before": "not paired",
            "after": each["course_name"] or "no course fits",
            "why": "the sheet names the shell; its items are compared once it is paired",
        }
        for each in wanted
        if not each["paired"]
    ]
