"""Writing the term sheet of what is."""

from __future__ import annotations

import argparse
from collections import Counter
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from vennpair.cli.choose import choose_pairing
from vennpair.cli.exits import DONE, REFUSED, UNREADABLE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import VennPair
from vennpair.client.schema import Item, Placement
from vennpair.core.counting import many
from vennpair.core.deploy.dates import in_zone, shifted
from vennpair.core.pair.copies import ItemFacts, match_items

Said = dict[str, Any]


def run_export(args: argparse.Namespace, out: Output) -> int:
    """Write what is placed in the shells, how scores go and how learners pay."""
    with connect() as venn:
        sections = [_read(venn, choose_pairing(venn, each)) for each in args.shell]
    if not sections[0].placed:
        raise Stop(
            REFUSED,
            "nothing_placed",
            f"Nothing is placed in {sections[0].label}, so there is no sheet to write.",
            "Name a shell that is set up first.",
        )
    sheet, remarks = sheet_of_shells(sections)
    for words in remarks:
        out.remark(words)
    if out.as_json:
        out.document(sheet)
        return DONE
    import tomli_w  # only here, so that no other command waits for it

    text = tomli_w.dumps(sheet, multiline_strings=False)
    if args.to is None:
        out.line(text.rstrip())
        return DONE
    try:
        Path(args.to).write_text(text, "utf-8")
    except OSError as error:
        raise Stop(
            UNREADABLE, "unwritable", f"{args.to}: {error.strerror or error}.", "Check the path."
        ) from error
    out.line(f"{many(len(sections), 'shell')} written to {args.to}.")
    return DONE


class Section:
    """What is in one shell; ``like`` gives the first shell's item for each of its own."""

    def __init__(self, label: str, course: str, zone: str, items: Sequence[Item]) -> None:
        self.label, self.course, self.zone = label, course, zone
        self.items = {each["id"]: each for each in items}
        self.placed: dict[str, Placement] = {}
        self.scores, self.access = "later", ""
        self.totals: list[str] = []

    @property
    def shift(self) -> int:
        """Return by how many days most of its dates were moved."""
        days = Counter(each["shift_days"] for each in self.placed.values())
        return days.most_common(1)[0][0] if days else 0


def _read(venn: VennPair, pairing: str) -> Section:
    about = venn.pairing(pairing)
    shell = about["shell"]
    found = Section(
        shell["label"] or shell["title"],
        about["course"]["code"] or about["course"]["title"],
        shell["timezone"] or "UTC",
        list(venn.items(pairing)),
    )
    found.placed = {
        each["item"]: each for each in venn.placements(pairing) if each["state"] == "placed"
    }
    when = venn.relay_rules(pairing)["changes"].get("when", "submission")
    found.scores = when if about["relay_on"] and when in {"submission", "due"} else "later"
    found.access = venn.first_steps(pairing)["chosen"]
    found.totals = [each["title"] for each in venn.averages(pairing)]
    return found


def sheet_of_shells(sections: Sequence[Section]) -> tuple[Said, list[str]]:
    """Return the sheet of what is, by the first shell, with what others have of their own; and
    what of it a sheet cannot say.
    """
    lead, remarks = sections[0], list[str]()
    facts = [_facts(each) for each in lead.items.values()]
    like = [{key: key for key in lead.items}] + [
        match_items(facts, [_facts(item) for item in each.items.values()]) for each in sections[1:]
    ]
    chosen = [
        key
        for key in lead.items
        if any(mine.get(key) in each.placed for each, mine in zip(sections, like, strict=True))
    ]
    names = _names(lead, chosen)
    remarks += _told_alike(names)
    graded = [key for key, item in lead.items.items() if item["kind"] == "graded"]
    sheet: Said = {"scores": lead.scores} | ({"access": lead.access} if lead.access else {})
    if chosen != graded:
        sheet["items"] = [names[key] for key in chosen]
    into, folders = _folders(lead)
    sheet |= into
    own = {key: _wish(lead, lead.placed[key], folders, key) for key in chosen if key in lead.placed}
    links = [own[key].get("becomes") == "link" for key in chosen if key in graded and key in own]
    if links and all(links):
        sheet["graded"] = "link"
        for wish in own.values():
            wish.pop("becomes", None)
    if lead.totals:
        sheet["total"] = lead.totals[0]
    if len(lead.totals) > 1:
        remarks.append(f"{lead.label}: a sheet has one total; its first is written.")
    for each in sections[1:]:
        if (each.scores, each.access) != (lead.scores, lead.access):
            remarks.append(
                f"{each.label}: scores and access differ from {lead.label}'s; a sheet has one for"
                " all."
            )
    rows = []
    for each, mine in zip(sections, like, strict=True):
        row: Said = {"shell": each.label, "course": each.course, "shift_days": each.shift}
        without = [names[key] for key in chosen if mine.get(key) not in each.placed]
        if without:
            row["without"] = without
        if each is not lead:
            row |= _differences(each, mine, own, folders, names, sheet.get("graded"))
        rows.append(row)
    wishes = {names[key]: wish for key, wish in own.items() if wish}
    return sheet | ({"item": wishes} if wishes else {}) | {"section": rows}, remarks


def _differences(
    section: Section,
    mine: dict[str, str],
    own: dict[str, Said],
    folders: dict[str, str],
    names: dict[str, str],
    graded: str | None,
) -> Said:
    """Return what single items get in one shell other than in the first; ``graded`` is what graded
    items become in all of them.
    """
    usual = {"visible": True, "shown_from": "", "new_window": False}
    found = {}
    for key, wish in own.items():
        placement = section.placed.get(mine.get(key, ""))
        if placement is None:
            continue
        here = _wish(section, placement, folders, mine[key])
        if here.get("becomes") == graded:
            here.pop("becomes", None)
        back = {name: usual[name] for name in wish if name not in here and name in usual}
        changed = {name: value for name, value in here.items() if wish.get(name) != value} | back
        if changed:
            found[names[key]] = changed
    return {"item": found} if found else {}


def _folders(lead: Section) -> tuple[Said, dict[str, str]]:
    """Return where items go: a folder for each unit where that is so, else one folder; and the
    folder of each unit.
    """
    counted: dict[str, Counter[str]] = {}
    for key, placement in lead.placed.items():
        unit = lead.items[key]["unit"] if key in lead.items else placement["unit"]
        counted.setdefault(unit, Counter())[placement["folder"]] += 1
    usual = {unit: count.most_common(1)[0][0] for unit, count in counted.items()}
    if all(unit and folder for unit, folder in usual.items()):
        other = {unit: folder for unit, folder in usual.items() if folder != unit}
        return {"into": "unit"} | ({"folders": other} if other else {}), usual
    every = Counter(each["folder"] for each in lead.placed.values())
    one = every.most_common(1)[0][0]
    return {"into": "folder", "folder": one}, dict.fromkeys(usual, one)


def _wish(section: Section, placement: Placement, folders: dict[str, str], key: str) -> Said:
    """Return what an item got that the sheet does not say for all."""
    item = section.items.get(key)
    if item is None:
        return {}
    said: Said = {}
    if placement["title"] != item["shown_title"]:
        said["title"] = placement["title"]
    if item["kind"] == "graded" and not placement["column"]:
        said["becomes"] = "link"
    elif placement["column"] and (not item["due_at"] or not item["points"]):
        said["becomes"] = "column"
    if placement["column"] and not item["points"] and placement["points"]:
        said["points"] = placement["points"]
    if placement["due_at"] and not item["due_at"]:
        said["due_at"] = in_zone(placement["due_at"], section.zone)
    if placement["column"] and placement["category"] != item["category"]:
        said["category"] = placement["category"]
    if placement["visible"] != (item["audience"] == "everyone"):
        said["visible"] = placement["visible"]
    if placement["shown_from"]:
        said["shown_from"] = shifted(
            placement["shown_from"], -placement["shift_days"], section.zone
        )[0]
    if placement["new_window"]:
        said["new_window"] = True
    if placement["folder"] and placement["folder"] != folders.get(item["unit"], ""):
        said["folder"] = placement["folder"]
    return said


def _names(lead: Section, chosen: Sequence[str]) -> dict[str, str]:
    """Return how each item is named in a sheet: by title, with its unit where several have it."""
    titles = Counter(each["shown_title"].casefold() for each in lead.items.values())
    return {
        key: lead.items[key]["shown_title"]
        if titles[lead.items[key]["shown_title"].casefold()] == 1
        else f"{lead.items[key]['unit']} / {lead.items[key]['shown_title']}"
        for key in chosen
    }


def _told_alike(names: dict[str, str]) -> list[str]:
    return [
        f"'{name}' is the name of {count} items; a sheet cannot tell them apart. Rename one of them"
        " at the publisher."
        for name, count in Counter(names.values()).items()
        if count > 1
    ]


def _facts(item: Item) -> ItemFacts:
    # Two courses share no ids: their items are alike by title, unit and place.
    return ItemFacts(item["id"], item["id"], item["title"], item["unit"], item["position"])
