"""Point links that a shell already holds at a new pairing, without touching the shell.

They came with a copied shell, or are left from a pairing that ended. Only the link and its column
are taken over: no ledger, no scores, no learners (a placement is made again under its own id).
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import QuerySet

from vennpair.core.counting import many
from vennpair.core.pair.copies import ItemFacts, match_items, placement_id
from vennpair.service.content.actions.tie_picked import PICKED
from vennpair.service.content.addresses import opens_itself
from vennpair.service.content.models import Item, Placement
from vennpair.service.pair.actions.go_live import go_live
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing, Shell
from vennpair.service.pair.trail import record
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.launch import Launch
from vennpair.standards.outline import Node

MOST_KEPT = 20  # copies of copies that a link remembers


def adopt_links(pairing: Pairing) -> tuple[int, int]:
    """Take over every link of the shell's outline; return how many, and how many found no item.

    Where the platform has no outline service each link is taken over when it is first opened.
    Raises OutsideError, Refused.
    """
    shell = pairing.shell
    if not shell.outline_url or (
        v.SCOPE_OUTLINE_READ not in shell.scopes and v.SCOPE_OUTLINE not in shell.scopes
    ):
        return 0, 0
    nodes = [
        node
        for node in shell_gateway(shell).outline(shell.outline_url)
        if node.kind == "lti_link" and placement_id(node.custom)
    ]
    old = {
        str(each.pk): each
        for each in _elsewhere(pairing).filter(pk__in=[placement_id(node.custom) for node in nodes])
    }
    mapped = _mapped(pairing, list(old.values()))
    ends = _ends(shell) if old else {}
    adopted, lost = 0, []
    with transaction.atomic():
        for node in nodes:
            before = old.get(placement_id(node.custom))
            if before is None:
                continue
            item = mapped.get(before.pk)
            if item is None:
                lost.append(node.title)
            else:
                adopted += _take(pairing, before, item, _as_in_shell(node, ends))
        if adopted or lost:
            words = f"; {len(lost)} found no item: {', '.join(lost[:5])}" if lost else ""
            record(
                "links.adopted",
                f"{many(adopted, 'link that was in the shell was', 'links that were in the shell were')}"
                f" pointed at this pairing{words}.",
                pairing=pairing,
                after={"adopted": adopted, "lost": lost[:100]},
            )
    return adopted, len(lost)


def adopt_at_launch(shell: Shell, message: Launch) -> Placement | None:
    """Take over the one link that somebody opened, by the placement or the link history it carries.

    None where it is not one of ours.
    """
    pairing = (
        Pairing.objects.filter(shell=shell)
        .exclude(state__in=[Pairing.State.ENDED, Pairing.State.DRAFT])
        .select_related("course__publisher", "shell__platform__institution")
        .first()
    )
    if pairing is None:
        return None
    rows = _elsewhere(pairing)
    before = (
        rows.filter(pk=placement_id(message.custom)).first()
        if placement_id(message.custom)
        else None
    )
    before = before or (
        rows.filter(resource_link_id__in=message.link_history).first()
        if message.link_history
        else None
    )
    item = _mapped(pairing, [before]).get(before.pk) if before else None
    if before is None or item is None:
        return None
    with transaction.atomic():
        column = message.grades.lineitem if message.grades else ""
        link = {
            "title": (message.resource_link_title or before.title)[:1000],
            "resource_link_id": message.resource_link_id,
            "column_url": column,
            "due_at": item.due_at,  # nobody has read the shell's
        }
        _take(pairing, before, item, link)
        go_live(pairing, "with the first link that was there and was opened")
    return Placement.objects.select_related(
        "pairing__course__publisher", "pairing__shell__platform__institution", "item"
    ).get(item=item)


def _elsewhere(pairing: Pairing) -> QuerySet[Placement]:
    """Return the placements of other pairings at the same registered platform: nothing of another
    institution is ever reached.
    """
    return (
        Placement.objects.filter(pairing__shell__platform=pairing.shell.platform_id)
        .exclude(pairing=pairing)
        .select_related("item__pairing", "pairing__course")
    )


def _mapped(pairing: Pairing, placements: list[Placement]) -> dict[UUID, Item]:
    """Return for each old placement the item of the new pairing that it stands for."""
    new = {str(item.pk): item for item in Item.objects.filter(pairing=pairing, gone=False)}
    facts = [_facts(item) for item in new.values()]
    found: dict[UUID, Item] = {}
    for each in placements:
        if item := _of_same_course(pairing, each.item):
            found[each.pk] = item
    for owner in {each.pairing_id for each in placements if each.pk not in found}:
        # All items of the old course take part, as equal titles are told apart by their order among
        # them.
        matched = match_items([_facts(item) for item in Item.objects.filter(pairing=owner)], facts)
        for each in placements:
            if each.pk in found or each.pairing_id != owner:
                continue
            if str(each.item_id) in matched:
                found[each.pk] = new[matched[str(each.item_id)]]
            elif each.item.source == PICKED and each.pairing.course_id == pairing.course_id:
                found[each.pk] = _copied(pairing, each.item)
    return found


def _of_same_course(pairing: Pairing, item: Item) -> Item | None:
    """Return the item of a pairing that is the same graded item of the very same course."""
    if not item.line_item or item.pairing.course_id != pairing.course_id:
        return None
    same = Item.objects.filter(pairing=pairing, line_item=item.line_item, gone=False)
    return same.order_by("position", "pk").first()


def _copied(pairing: Pairing, item: Item) -> Item:
    """Return what was picked at the publisher for an old shell as an item of the new pairing."""
    names = ("title", "shown_title", "kind", "unit", "position", "audience", "url", "custom")
    more = ("line_item", "resource", "tag", "points", "due_at", "category", "reason", "source")
    facts = {name: getattr(item, name) for name in (*names, *more)}
    made, _ = Item.objects.get_or_create(pairing=pairing, key=item.key, defaults=facts)
    return made


def _with_address(pairing: Pairing, item: Item, before: Item) -> None:
    """Let an item open as the copied link's did, where nothing else tells its address."""
    if opens_itself(item, pairing.course.publisher):
        return
    item.url, item.custom = before.url, before.custom
    item.save(update_fields=["url", "custom"])


def _facts(item: Item) -> ItemFacts:
    return ItemFacts(str(item.pk), item.key, item.title, item.unit, item.position)


def _ends(shell: Shell) -> dict[str, str]:
    """Return by column (its URL) when it ends, where the shell's columns may be read (AGS 2.0,
    3.2).

    Raises OutsideError.
    """
    if not shell.lineitems_url or v.SCOPE_LINE_ITEM not in shell.scopes:
        return {}
    return {each.id: each.end for each in shell_gateway(shell).line_items(shell.lineitems_url)}


def _as_in_shell(node: Node, ends: Mapping[str, str]) -> dict[str, Any]:
    """Return of a link what the shell says: the date of last term, until somebody moves it."""
    return {
        "title": node.title[:1000],
        "entry_id": node.id,
        "resource_link_id": node.resource_link_id,
        "column_url": node.column,
        "due_at": node.due_at or ends.get(node.column, ""),
        "visible": node.visible,
        "shown_from": node.shown_from,
        "new_window": node.new_window,
    }


def _take(pairing: Pairing, before: Placement, item: Item, link: Mapping[str, Any]) -> bool:
    """Make the new placement of a ``link`` as it is in the shell, unless the item has one that
    works; a link is never taken from it.
    """
    known = Placement.objects.select_for_update(no_key=True).filter(item=item).first()
    if known is not None and known.state == Placement.State.PLACED:
        return False
    if before.pairing.course.publisher_id == pairing.course.publisher_id:
        _with_address(pairing, item, before.item)
    fields = {
        "pairing": pairing,
        "state": Placement.State.PLACED,
        "entry_id": "",
        "folder": before.folder,
        "category": before.category,
        "points": item.points if before.points is not None else None,
        **link,
        "history": [str(before.pk), *before.history][:MOST_KEPT],
    }
    Placement.objects.update_or_create(item=item, defaults=fields)
    return True
