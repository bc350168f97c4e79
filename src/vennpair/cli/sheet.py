"""The sheet of a rollout: from options, from a file, or both; options go before the file."""

from __future__ import annotations

import argparse
import json
import tomllib
from collections.abc import Sequence
from dataclasses import Field
from pathlib import Path
from shlex import quote
from typing import Any, Literal, get_args, get_origin, get_type_hints

from vennpair.cli.choose import choose, choose_pairing
from vennpair.cli.exits import UNREADABLE, USAGE, Stop
from vennpair.client import VennPair
from vennpair.client.schema import Item
from vennpair.core.deploy.sheet import AGAIN, HOW, WHERE, Described, Sheet, description_of

FILE_FIELDS = {each.name for each, _ in description_of()}
CHOOSING = {"items", "units", "all_graded", "sections", "item"}
# What placed items take from a sheet that says it, by the field that says it.
APPLIES = {
    "visible": "visible",
    "shown_from": "shown_from",
    "shown_before": "shown_from",
    "new_window": "new_window",
}
PLACEABLE = {"graded", "practice", "link"}
Document = dict[str, Any]


def add_options(command: argparse.ArgumentParser, *, also: bool = True) -> None:
    """Add every option that a sheet has: those of its fields, and shorter ways to say some;
    ``also`` adds that for further shells.
    """
    groups = {name: command.add_argument_group(name) for name in (WHERE, HOW, AGAIN)}
    for each, said in description_of():
        if said.option:
            _add_option(groups[said.group], each, said)
    where = groups[WHERE]
    where.add_argument(
        "--per-unit",
        action="store_true",
        help="into a folder named like each unit; --folder is then the folder around them",
    )
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
        "--words",
        action="append",
        default=[],
        metavar="ITEM=WORDS",
        help="with --in-page: words of the page's text that become the link; may be repeated",
    )
    if also:
        where.add_argument(
            "--also",
            action="append",
            default=[],
            metavar="SHELL[:DAYS]",
            help="into this shell too, its dates moved by DAYS; may be repeated",
        )
    shown = groups[HOW].add_mutually_exclusive_group()
    shown.add_argument("--hidden", action="store_true", help="hidden from learners")
    shown.add_argument(
        "--visible",
        dest="shown",
        action="store_true",
        help="shown to learners, as is usual; with --update, placed items too",
    )


def _add_option(group: argparse._ArgumentGroup, each: Field[Any], said: Described) -> None:
    """Add the option of one field; one that is not given is None, and the file's word counts."""
    kind = get_type_hints(Sheet)[each.name]
    if kind is bool:
        group.add_argument(said.option, dest=each.name, action="store_true", help=said.help)
        return
    choices = get_args(kind) if get_origin(kind) is Literal else None
    shown = f" (default: {each.default})" if choices else ""
    group.add_argument(
        said.option,
        dest=each.name,
        choices=choices,
        type=str if kind is str or choices else int,
        metavar=said.metavar or None,
        help=said.help + shown,
    )


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
    for each, said in description_of():
        given = getattr(args, each.name) if said.option else None
        if given not in (None, False) and each.name != "after":  # an entry, found below
            sheet[each.name] = given
    if args.hidden or args.shown:
        sheet["visible"] = args.shown
    if sheet.get("update"):
        sheet["applies"] = sorted({APPLIES[name] for name in sheet if name in APPLIES})
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
                "entry",
                outline,
                args.after,
                lambda row: (row["title"],),
                f"outline {quote(args.shell)}",
            )["id"]
        )
    wishes = {_item(items, title, args.shell): wish for title, wish in file.get("item", {}).items()}
    _take_words(args, items, wishes)
    return sheet | ({"wishes": wishes} if wishes else {})


def _take_words(
    args: argparse.Namespace, items: Sequence[Item], wishes: dict[str, Document]
) -> None:
    """Add the words of a page that become an item's link. Raises Stop."""
    for each in args.words:
        title, mark, words = each.partition("=")
        if not mark or not words.strip():
            raise Stop(
                USAGE,
                "usage",
                f"'{each}' does not say which words of the page become a link.",
                "Write it as: --words 'Unit 1 quiz=measure the depth'",
            )
        key = _item(items, title.strip(), args.shell)
        wishes[key] = wishes.get(key, {}) | {"words": words.strip()}


def _item(items: Sequence[Item], title: str, shell: str) -> str:
    """Return the id of the item that is meant. Raises Stop."""
    row = choose(
        "item",
        items,
        title,
        lambda row: (row["shown_title"], row["title"]),
        f"items {quote(shell)}",
    )
    return str(row["id"])


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
            f"items {quote(args.shell)}",
        )["id"]
        for wanted in [*args.items, *file.get("items", [])]
    ]
    units = {unit.casefold() for unit in [*args.unit, *file.get("units", [])]}
    subjects = {each.casefold() for each in [*args.subject, *file.get("subjects", [])]}
    everything = args.all_graded or file.get("all_graded", False)
    for item in items:
        in_unit = any(starts(item["unit"], unit) for unit in units) and item["kind"] in PLACEABLE
        about = item["kind"] in PLACEABLE and any(
            each.casefold() in subjects for each in item["subjects"]
        )
        if (everything and item["kind"] == "graded") or in_unit or about:
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


def left_out_of_units(args: argparse.Namespace, file: Document, items: Sequence[Item]) -> list[str]:
    """Return the titles of what is in the named units and cannot be placed as a link."""
    units = {unit.casefold() for unit in [*args.unit, *file.get("units", [])]}
    return [
        item["shown_title"]
        for item in items
        if item["kind"] not in PLACEABLE and any(starts(item["unit"], unit) for unit in units)
    ]


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
        fitting = [unit for unit in units if starts(unit, name.casefold())]
        if not fitting:
            raise Stop(
                USAGE,
                "unit_unknown",
                f"There is no unit '{name}'.",
                f"There are: {'; '.join(units[:12])}.",
            )
        found.update(dict.fromkeys(fitting, folder))
    return found


def starts(unit: str, name: str) -> bool:
    """Say whether a unit is meant by its beginning: 'unit 1' is not 'unit 10'."""
    folded = unit.casefold()
    return folded.startswith(name) and not (
        name[-1:].isdigit() and folded[len(name) : len(name) + 1].isdigit()
    )
