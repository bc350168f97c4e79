"""Which item of one homework course is which item of another that was copied from it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from vennpair.core.reconcile.columns import fold_title


@dataclass(frozen=True, slots=True)
class ItemFacts:
    """What tells an item: its id here, the key that survives imports, title, unit and position."""

    id: str
    key: str
    title: str
    unit: str
    position: int


def match_items(old: Sequence[ItemFacts], new: Sequence[ItemFacts]) -> dict[str, str]:
    """Return for each old item's id the new one's, where there is no doubt.

    By key first (the same course), then by unit and title; several of one title in one unit are
    told apart by their order, but only where both sides have equally many.
    """
    by_key = {each.key: each.id for each in new}
    found = {each.id: by_key[each.key] for each in old if each.key in by_key}
    taken = set(found.values())
    left: dict[tuple[str, str], list[ItemFacts]] = defaultdict(list)
    right: dict[tuple[str, str], list[ItemFacts]] = defaultdict(list)
    for each in old:
        if each.id not in found:
            left[_name(each)].append(each)
    for each in new:
        if each.id not in taken:
            right[_name(each)].append(each)
    for name, items in left.items():
        others = right.get(name, [])
        if len(items) == len(others):
            pairs = zip(sorted(items, key=_order), sorted(others, key=_order), strict=True)
            found.update({one.id: other.id for one, other in pairs})
    return found


def _name(item: ItemFacts) -> tuple[str, str]:
    return fold_title(item.unit), fold_title(item.title)


def _order(item: ItemFacts) -> int:
    return item.position


def placement_id(custom: dict[str, str]) -> str:
    """Return the placement that a link's custom parameters name, or nothing."""
    try:
        return str(UUID(custom.get("placement", "")))
    except ValueError:
        return ""
