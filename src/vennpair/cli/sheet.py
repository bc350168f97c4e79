"""The sheet of a rollout: from options, from a file, or both; options go before the file."""

from __future__ import annotations

import argparse
import json
import tomllib
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from vennpair.cli.choose import choose, choose_pairing
from vennpair.cli.exits import UNREADABLE, USAGE, Stop
from vennpair.client import VennPair
from vennpair.client.types import Item

FILE_FIELDS = {
    "into",
    "folder",
    "folders",
    "graded",
    "undated",
    "category",
    "by",
    "after",
    "visible",
    "shown_from",
    "shown_before",
    "new_window",
    "pattern",
    "longest",
    "update",
    "move",
    "shift_days",
}
CHOOSING = {"items", "units", "all_graded", "sections", "item"}
PLACEABLE = {"graded", "practice", "link"}
Document = dict[str, Any]


def add_options(command: argparse.ArgumentParser) -> None:
    """Add every option that a sheet has."""
    where = command.add_argument_group("where to")
    where.add_argument(
        "--folder",
        help=(
            "title or id of a folder, made where it is not there; left out: the top. With"
            " --per-unit the folder around the units'"
        ),
    )
    where.add_argument("--per-unit", action="store_true", help="into a folder of each unit's name")
    where.add_argument(
        "--unit-folder",
        action="append",
        default=[],
        metavar="UNIT=FOLDER",
        help="with --per-unit: another folder for a unit; may be repeated",
    )
    where.add_argument("--under", metavar="HEADING", help="under a heading of the outline")
    where.add_argument("--in-page", metavar="PAGE", help="as links in the text of a page")
    where.add_argument(
        "--also",
        action="append",
        default=[],
        metavar="SHELL[:DAYS]",
        help="into this shell too, its dates shifted by so many days; may be repeated",
    )
    where.add_argument(
        "--shift-days", type=int, metavar="DAYS", help="shift the dates in the first shell"
    )
    how = command.add_argument_group("how")
    how.add_argument(
        "--graded",
        choices=("column", "link"),
        help="graded items become links with a column (default), or links only",
    )
    how.add_argument(
        "--undated",
        choices=("ask", "column", "link"),
        help="what graded items without a due date become (ask: they are left out)",
    )
    how.add_argument(
        "--category",
        help="publisher (default), none, or a category of the shell, made where it is not there",
    )
    how.add_argument(
        "--order",
        dest="by",
        choices=("publisher", "due", "unit", "chosen"),
        help="in which order (default: the publisher's)",
    )
    how.add_argument(
        "--after", metavar="ENTRY", help="right after this entry of the outline, or 'start'"
    )
    how.add_argument("--hidden", action="store_true", help="hidden from learners")
    how.add_argument(
        "--shown-from",
        metavar="TIME",
        help="shown from a time, as 2027-01-11T08:00 in the course's zone",
    )
    how.add_argument(
        "--shown-before",
        type=int,
        metavar="DAYS",
        help="shown from so many days before the due date",
    )
    how.add_argument("--new-window", action="store_true", help="open in a new window")
    how.add_argument(
        "--title",
        dest="pattern",
        metavar="PATTERN",
        help="rename by a pattern with {title}, {unit}, {number}, {category} and {points}",
    )
    how.add_argument(
        "--longest", type=int, metavar="N", help="shorten titles to so many characters"
    )
    again = command.add_argument_group("what stands already")
    again.add_argument(
        "--update",
        action="store_true",
        help="bring it up to date with the publisher and with these options",
    )
    again.add_argument("--move", action="store_true", help="move it to where the options say")


def read_sheet(path: str) -> Document:
    """Read a sheet from a TOML or JSON file. Raises Stop naming the file and what is wrong
    in it.
    """
    if not path:
        return {}
    file = Path(path)
    try:
        document = (
            json.loads(file.read_text("utf-8-sig"))
            if file.suffix == ".json"
            else tomllib.loads(file.read_text("utf-8-sig"))
        )
    except OSError as error:
        raise Stop(
            UNREADABLE, "unreadable", f"{file}: {error.strerror or error}.", "Check the path."
        ) from error
    except (ValueError, tomllib.TOMLDecodeError) as error:
        raise Stop(
            UNREADABLE,
            "bad_sheet",
            f"{file}: {error}.",
            "A sheet is TOML, or JSON where the name ends in .json.",
        ) from error
    unknown = (
        sorted(set(document) - FILE_FIELDS - CHOOSING)
        if isinstance(document, dict)
        else ["the whole"]
    )
    if unknown:
        raise Stop(
            UNREADABLE,
            "bad_sheet",
            f"{file}: a sheet has no {', '.join(unknown)}.",
            f"It may have: {', '.join(sorted(FILE_FIELDS | CHOOSING))}.",
        )
    return dict(document)


def sheet_of(
    args: argparse.Namespace, file: Document, items: Sequence[Item], outline: Sequence[Document]
) -> Document:
    """Return what the service is asked for, sections and items aside. Raises Stop."""
    sheet = {name: file[name] for name in FILE_FIELDS if name in file}
    for name in (
        "folder",
        "graded",
        "undated",
        "category",
        "by",
        "shown_from",
        "shown_before",
        "pattern",
        "longest",
        "shift_days",
    ):
        if getattr(args, name) is not None:
            sheet[name] = getattr(args, name)
    for name in ("update", "move", "new_window"):
        if getattr(args, name):
            sheet[name] = True
    if args.hidden:
        sheet["visible"] = False
    if sum(map(bool, (args.per_unit, args.under, args.in_page))) > 1:
        raise Stop(
            USAGE,
            "usage",
            "Only one of --per-unit, --under and --in-page can be meant.",
            "Leave the others out.",
        )
    if args.per_unit or args.unit_folder:
        sheet |= {
            "into": "unit",
            "folders": sheet.get("folders", {}) | dict(_pair(each) for each in args.unit_folder),
        }
    for option, into in ((args.under, "heading"), (args.in_page, "page")):
        if option:
            sheet |= {"into": into, "folder": option}
    if "folders" in sheet:
        sheet["folders"] = by_unit(sheet["folders"], items)
    if args.after:
        sheet["after"] = (
            args.after
            if args.after == "start"
            else choose(
                "entry", outline, args.after, lambda row: (row["title"],), f"outline '{args.shell}'"
            )["id"]
        )
    wishes = {
        choose(
            "item",
            items,
            title,
            lambda row: (row["shown_title"], row["title"]),
            f"items '{args.shell}'",
        )["id"]: wish
        for title, wish in file.get("item", {}).items()
    }
    return sheet | ({"wishes": wishes} if wishes else {})


def chosen_items(args: argparse.Namespace, file: Document, items: Sequence[Item]) -> list[str]:
    """Return the ids that are meant: in the order in which they are named where that counts, else
    in the publisher's. Raises Stop.
    """
    named = [
        choose(
            "item",
            items,
            wanted,
            lambda row: (row["shown_title"], row["title"]),
            f"items '{args.shell}'",
        )["id"]
        for wanted in [*args.items, *file.get("items", [])]
    ]
    units = {unit.casefold() for unit in [*args.unit, *file.get("units", [])]}
    everything = args.all_graded or file.get("all_graded", False)
    for item in items:
        in_unit = any(_starts(item["unit"], unit) for unit in units) and item["kind"] in PLACEABLE
        if (everything and item["kind"] == "graded") or in_unit:
            named.append(item["id"])
    if not named:
        raise Stop(
            USAGE,
            "no_items",
            "Which items?",
            "Name them, or use --all-graded or --unit, or a --file; list them with: vennpair items"
            " SHELL",
        )
    return list(dict.fromkeys(named))


def sections_of(venn: VennPair, args: argparse.Namespace, file: Document) -> list[Document]:
    """Return the further shells with what is their own. Raises Stop."""
    rows = []
    for each in file.get("sections", []):
        if "shell" not in each:
            raise Stop(
                UNREADABLE,
                "bad_sheet",
                "A section of the sheet names no shell.",
                'Give it: shell = "label".',
            )
        rows.append(
            {name: value for name, value in each.items() if name != "shell"}
            | {"pairing": choose_pairing(venn, each["shell"])}
        )
    for each in args.also:
        label, mark, days = each.rpartition(":")
        if mark and days.lstrip("+-").isdigit():
            rows.append({"pairing": choose_pairing(venn, label), "shift_days": int(days)})
        else:
            rows.append({"pairing": choose_pairing(venn, each)})
    return rows


def _pair(text: str) -> tuple[str, str]:
    unit, mark, folder = text.partition("=")
    if not mark or not unit.strip() or not folder.strip():
        raise Stop(
            USAGE,
            "usage",
            f"'{text}' does not say which folder a unit gets.",
            "Write it as: --unit-folder 'Unit 1=Week 1'",
        )
    return unit.strip(), folder.strip()


def by_unit(folders: dict[str, str], items: Sequence[Item]) -> dict[str, str]:
    """Return folders by the units' whole names, as a name may be given by its beginning."""
    units = list(dict.fromkeys(item["unit"] for item in items if item["unit"]))
    found = {}
    for name, folder in folders.items():
        fitting = [unit for unit in units if _starts(unit, name.casefold())]
        if not fitting:
            raise Stop(
                USAGE,
                "unit_unknown",
                f"There is no unit '{name}'.",
                f"There are: {'; '.join(units[:12])}.",
            )
        found.update(dict.fromkeys(fitting, folder))
    return found


def _starts(unit: str, name: str) -> bool:
    """Say whether a unit is meant by its beginning: 'unit 1' is not 'unit 10'."""
    folded = unit.casefold()
    return folded.startswith(name) and not (
        name[-1:].isdigit() and folded[len(name) : len(name) + 1].isdigit()
    )
