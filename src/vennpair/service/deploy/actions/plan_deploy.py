"""Plan a rollout into one shell or several from what they hold now; nothing is changed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, fields, replace
from typing import Any

from vennpair.core.deploy import places
from vennpair.core.deploy.columns import Notice
from vennpair.core.deploy.page_text import PageLink, with_links
from vennpair.core.deploy.plan import Plan, ShellSnapshot, plan_rollout
from vennpair.core.deploy.sheet import Sheet, Wish
from vennpair.core.deploy.titles import BadPattern
from vennpair.core.pair.copies import ItemFacts, match_items
from vennpair.service.content.models import Item
from vennpair.service.content.pages import shown
from vennpair.service.content.queries import items_standing
from vennpair.service.deploy.mapping import candidate
from vennpair.service.deploy.shell_snapshot import snapshots
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.standards.outline import Node


@dataclass(frozen=True, slots=True)
class Section:
    """A shell that the rollout goes to, with what is its own: the shift of its dates, its folder
    and its units' folders; wishes for single items and items that it does not get, both by the
    first shell's items.
    """

    pairing: Pairing
    shift_days: int | None = None
    folder: str | None = None
    folders: Mapping[str, str] | None = None
    wishes: Mapping[str, Wish] = field(default_factory=dict)
    without: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class Planned:
    """The plan for one shell; ``lost`` names chosen items that this section's homework course does
    not have.

    ``unread``: nothing is known of that course yet, so nothing can be said of the section before it
    is read.
    """

    pairing: Pairing
    sheet: Sheet
    plan: Plan
    items: Mapping[str, Item]
    lost: tuple[str, ...] = ()
    unread: bool = False
    page_html: str = ""


def plan_deploy(
    lead: Pairing,
    chosen: Sequence[Any],
    sheet: Sheet,
    sections: Sequence[Section] = (),
    known: Mapping[str, ShellSnapshot] | None = None,
) -> list[Planned]:
    """Plan the items of ``lead`` into its shell, and their like of the other sections into theirs.

    ``known`` holds what shells hold, by pairing, where they were just read; those that are not in
    it are left out. Raises Refused for unknown items, places or patterns, and OutsideError.
    """
    rows = [each for each in sections if each.pairing.pk != lead.pk]
    own = next((each for each in sections if each.pairing.pk == lead.pk), Section(lead))
    every = [own, *rows]
    items = _items([each.pairing for each in every])
    wanted = [str(each) for each in dict.fromkeys(map(str, chosen))]
    mine = items[str(lead.pk)]
    if missing := [each for each in wanted if each not in mine]:
        raise Refused(
            "unknown_item",
            f"{len(missing)} of the chosen items are not in this pairing.",
            "Import again and choose from the list.",
            422,
        )
    snapshot = snapshots([each.pairing for each in every]) if known is None else known
    leading = snapshot.get(str(lead.pk))
    elsewhere = _named(sheet, leading.outline if leading else ())
    facts = [_facts(each) for each in mine.values()]
    planned = []
    for section in (each for each in every if str(each.pairing.pk) in snapshot):
        theirs = items[str(section.pairing.pk)]
        like = (
            {each: each for each in wanted}
            if section is own
            else match_items(facts, [_facts(each) for each in theirs.values()])
        )
        mine_of = [each for each in wanted if each not in section.without]
        there = [theirs[like[each]] for each in mine_of if each in like]
        lost = (
            tuple(mine[each].shown_title for each in mine_of if each not in like) if theirs else ()
        )
        own_sheet = _sheet_of(sheet if section is own else elsewhere, section, like, there)
        named = _name(section.pairing) if rows else ""
        plan = _plan(section.pairing, there, own_sheet, snapshot[str(section.pairing.pk)], named)
        plan, page = _on_page(section.pairing, plan, own_sheet) if plan.page else (plan, "")
        planned.append(
            Planned(
                section.pairing,
                own_sheet,
                plan,
                {str(each.pk): each for each in there},
                lost,
                unread=not theirs,
                page_html=page,
            )
        )
    return planned


def _plan(
    pairing: Pairing, there: list[Item], sheet: Sheet, snapshot: ShellSnapshot, named: str
) -> Plan:
    """Plan one section; ``named`` says which it is in what is refused."""
    try:
        return plan_rollout(
            [candidate(each, pairing.course.publisher) for each in there], sheet, snapshot
        )
    except places.NoPlace as error:
        raise Refused(error.code, f"{named}{error.message}", error.remedy, 422) from error
    except BadPattern as error:
        raise Refused(
            "bad_pattern",
            f"The pattern for titles is not right: {error}.",
            "Write it with these fields, such as '{unit}: {title}'.",
            422,
        ) from error


def _on_page(pairing: Pairing, plan: Plan, sheet: Sheet) -> tuple[Plan, str]:
    """Return a plan into a page with what is to be said of it, and the page's text as it will be.

    Raises OutsideError.
    """
    before = shell_gateway(pairing.shell).html(pairing.shell.outline_url, plan.page)
    links = [
        PageLink(f"#{row.item}", row.target.title, sheet.wish(row.item).words or "")
        for row in plan.of("make")
    ]
    text, went = with_links(before, links, sheet.after_text)
    lost = [
        Notice(
            "words_unknown",
            row.item,
            row.target.title,
            f"The page's text does not hold '{sheet.wish(row.item).words}' outside its links, so"
            f" '{row.target.title}' gets a line of its own.",
            "Say other words, or none.",
        )
        for row in plan.of("make")
        if sheet.wish(row.item).words and went[f"#{row.item}"] != "words"
    ]
    if sheet.after_text and "end" in went.values():
        words = f"No paragraph of the page holds '{sheet.after_text}', so links go to its end."
        lost.append(Notice("paragraph_unknown", "", "", words, "Say words of the page's text."))
    return replace(plan, notices=(*plan.notices, *lost)), shown(text)


def _items(pairings: Sequence[Pairing]) -> dict[str, dict[str, Item]]:
    """Return all items of the pairings with their placements and decisions: one query, however many
    shells.
    """
    found: dict[str, dict[str, Item]] = {str(each.pk): {} for each in pairings}
    rows = (
        items_standing(Item.objects.filter(pairing__in=pairings, gone=False))
        .select_related("decision")
        .defer("catalogue", "reason")
        .order_by("position", "id")
    )
    for item in rows:
        found[str(item.pairing_id)][str(item.pk)] = item
    return found


def _named(sheet: Sheet, outline: Sequence[Node]) -> Sheet:
    """Return the sheet as other shells can take it: places by their titles, as ids are the first
    shell's only, and after no entry of its.
    """
    titles = {node.id: node.title for node in outline}
    folders = {unit: titles.get(folder, folder) for unit, folder in sheet.folders.items()}
    return replace(
        sheet,
        folder=titles.get(sheet.folder, sheet.folder),
        folders=folders,
        after=sheet.after if sheet.after == places.START else "",
    )


def _sheet_of(
    sheet: Sheet, section: Section, like: Mapping[str, str], items: Sequence[Item]
) -> Sheet:
    """Return the sheet for one section: its own shift and folders, wishes by its own items, and
    what was decided before.
    """
    said_of = dict(sheet.wishes) | {
        item: _over(sheet.wishes.get(item, Wish()), wish) for item, wish in section.wishes.items()
    }
    wishes = {like[item]: wish for item, wish in said_of.items() if item in like}
    for item in items:
        decision = getattr(item, "decision", None)
        if decision is not None and not (
            item.due_at and item.points
        ):  # the publisher's own word goes before what was decided without it
            said = wishes.get(str(item.pk), Wish())
            becomes = said.becomes or (
                decision.becomes if decision.becomes in {"column", "link"} else None
            )
            wishes[str(item.pk)] = replace(
                said,
                becomes=becomes,
                points=said.points or decision.points,
                due_at=said.due_at if said.due_at is not None else decision.due_at or None,
            )
    folders = sheet.folders if section.folders is None else dict(section.folders)
    days = sheet.shift_days if section.shift_days is None else section.shift_days
    return replace(
        sheet,
        wishes=wishes,
        shift_days=days,
        folders=folders,
        folder=sheet.folder if section.folder is None else section.folder,
    )


def _over(wish: Wish, own: Wish) -> Wish:
    """Return a wish with a section's own words in the place of what holds for all."""
    said = {each.name: getattr(own, each.name) for each in fields(own)}
    return replace(wish, **{name: value for name, value in said.items() if value is not None})


def _facts(item: Item) -> ItemFacts:
    return ItemFacts(str(item.pk), item.key, item.title, item.unit, item.position)


def _name(pairing: Pairing) -> str:
    return f"{pairing.shell.label or pairing.shell.title}: "
