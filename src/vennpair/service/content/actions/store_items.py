"""Bring a pairing's items in line with what a source tells.

What it no longer tells of is marked, never deleted.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from decimal import Decimal
from typing import Any

from vennpair.core.content.understand import EntryDraft
from vennpair.core.deploy.dates import same_moment
from vennpair.service.content.models import Item
from vennpair.service.pair.models import Pairing
from vennpair.service.stored import CatalogueSays

_STORED = (
    "title",
    "shown_title",
    "unit",
    "position",
    "audience",
    "url",
    "custom",
    "line_item",
    "points",
    "due_at",
    "category",
    "reason",
    "subjects",
)
_LONGEST = {
    "title": 1000,
    "shown_title": 1000,
    "unit": 500,
    "url": 2000,
    "line_item": 255,
    "category": 255,
    "reason": 200,
}


def store_items(
    pairing: Pairing,
    source: str,
    drafts: Sequence[EntryDraft],
    listed: Mapping[str, CatalogueSays],
) -> tuple[dict[str, int], dict[str, Item]]:
    """Store drafts as items; return how many are new, changed, the same and gone, and the items by
    the drafts' keys.

    ``listed`` is what the publisher's catalogue says now, by line item. An item is known by the
    graded item that it opens, or by its key. Only items of the same source can go.
    """
    known = list(Item.objects.select_for_update().filter(pairing=pairing))
    by_key, by_line = (
        {item.key: item for item in known},
        {item.line_item: item for item in known if item.line_item},
    )
    report, stored, told = {"new": 0, "changed": 0, "same": 0, "gone": 0}, {}, set()
    for draft in drafts:
        key = draft.key[:255]
        item = (by_line.get(draft.line_item) if draft.line_item else None) or by_key.get(key)
        if item is not None and item.pk in told:  # a second link to the same graded item
            stored[draft.key] = item
            continue
        values = {"kind": draft.item_kind} | {name: _fitting(draft, name) for name in _STORED}
        if item is None:
            item = Item.objects.create(pairing=pairing, source=source, key=key, **values)
            report["new"] += 1
        elif item.gone or any(
            _differs(name, getattr(item, name), value) for name, value in values.items()
        ):
            for name, value in values.items():
                setattr(item, name, value)
            item.gone = False
            item.save()
            report["changed"] += 1
        else:
            report["same"] += 1
        stored[draft.key] = item
        told.add(item.pk)
    gone = (
        Item.objects.filter(pairing=pairing, source=source, gone=False).exclude(
            pk__in=[item.pk for item in stored.values()]
        )
        if drafts
        else Item.objects.none()
    )
    # What the publisher's catalogue lists is its to withdraw, also where a package does not hold
    # it.
    report["gone"] = gone.exclude(line_item__in=list(listed)).update(gone=True)
    fresh = [item for item in stored.values() if not item.catalogue and item.line_item in listed]
    for item in fresh:
        item.catalogue = listed[item.line_item]
    Item.objects.bulk_update(fresh, ["catalogue"], batch_size=500)
    return report, stored


def _fitting(draft: EntryDraft, name: str) -> Any:
    value = getattr(draft, name)
    return value[: _LONGEST[name]] if name in _LONGEST else value


def _differs(name: str, stored: Any, value: Any) -> bool:
    if name == "due_at":
        return not same_moment(stored, value)
    if isinstance(stored, Decimal) and isinstance(value, Decimal):
        return stored.compare(value) != 0
    return bool(stored != value)
