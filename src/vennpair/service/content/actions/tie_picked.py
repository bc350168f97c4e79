"""Tie what was picked at the publisher to the graded items of its catalogue, so that its scores are
read.
"""

from __future__ import annotations

from collections.abc import Sequence
from uuid import UUID

from vennpair.core.content.tying import Picked, Tie, tie
from vennpair.core.counting import many
from vennpair.service.content.models import Entry, Item
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.trail import record
from vennpair.standards.oneroster.objects import LineItem

PICKED = "picked"


def tie_picked(pairing: Pairing, listed: Sequence[LineItem]) -> dict[UUID, Item]:
    """Tie every picked item that has none yet; return the tied ones, by the id that was picked.

    In the caller's transaction. Where the catalogue's own item was stored beside the picked one,
    the two become one: the one that is placed, else the catalogue's.
    """
    loose = list(
        Item.objects.select_for_update(of=("self",))
        .filter(pairing=pairing, source=PICKED, line_item="")
        .select_related("placement")
        .order_by("position", "pk")
    )
    if not loose:
        return {}
    ties = tie([picked_of(each) for each in loose], listed)
    tied: dict[UUID, Item] = {}
    for item in loose:
        key, found = item.pk, ties.get(str(item.pk))
        if found is not None and (kept := _tied(item, found)) is not None:
            tied[key] = kept
    if tied:
        record(
            "picked.tied",
            f"{many(len(tied), 'picked item was', 'picked items were')} found in the publisher's"
            " catalogue; scores are read from there.",
            pairing=pairing,
        )
    return tied


def picked_of(item: Item) -> Picked:
    """Return a stored item as the rules of tying know it."""
    return Picked(
        str(item.pk), item.title, item.points, item.resource, item.tag, item.url, item.custom
    )


def _tied(item: Item, found: Tie) -> Item | None:
    """Tie one item; None where another that is placed has the graded item already, by an id."""
    twin = (
        Item.objects.select_for_update(of=("self",))
        .filter(pairing=item.pairing_id, line_item=found.line_item)
        .select_related("placement")
        .first()
    )
    if twin is not None and hasattr(twin, "placement") and hasattr(item, "placement"):
        if not found.certain:
            return None
        twin = None  # two links in the shell open one graded item: both read its scores
    if twin is not None and not hasattr(item, "placement"):
        twin.url, twin.custom = item.url, item.custom
        twin.resource, twin.tag = item.resource, item.tag
        twin.save(update_fields=["url", "custom", "resource", "tag"])
        Entry.objects.filter(item=item).update(item=twin)
        item.delete()
        return twin
    if twin is not None:
        item.unit, item.category, item.position = twin.unit, twin.category, twin.position
        item.catalogue, item.due_at = twin.catalogue, item.due_at or twin.due_at
        Entry.objects.filter(item=twin).update(item=item)
        twin.delete()
    item.line_item = found.line_item[:255]
    item.reason = f"picked at the publisher; known by {found.why}"[:200]
    item.save()
    return item
