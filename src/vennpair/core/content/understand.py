"""From a cartridge's outline and a publisher's line items to items that can be placed."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal
from urllib.parse import urlsplit

from vennpair.core.reconcile.columns import fold_title
from vennpair.standards.cartridge import Cartridge, OutlineRow
from vennpair.standards.oneroster.objects import LineItem

# The kinds of items (DESIGN 2) by the cartridge's kinds; the rest cannot be placed as a link.
_KINDS = {"page": "reading", "file": "media", "web_link": "link"}


@dataclass(frozen=True, slots=True)
class ItemDraft:
    """An item before it is stored. ``key`` is stable across imports of the same course.

    ``title`` is the source's, ``shown_title`` the one that tells it apart; ``reason`` says by what
    its line item was recognised.
    """

    key: str
    title: str
    shown_title: str
    kind: str
    unit: str
    position: int
    audience: str = "everyone"
    url: str = ""
    new_window: bool = False
    custom: dict[str, str] = field(default_factory=dict)
    member: str = ""
    line_item: str = ""
    points: Decimal | None = None
    due_date: str = ""
    category: str = ""
    reason: str = ""


def understand(cartridge: Cartridge, line_items: Sequence[LineItem]) -> list[ItemDraft]:
    """Return the placeable items of a cartridge in reading order, each with what the publisher knows of it."""
    index = _LineItemIndex(line_items)
    drafts = []
    for position, (row, unit) in enumerate(_with_units(cartridge.outline)):
        if row.kind == "lti_link":
            drafts.append(_tool_item(row, unit, position, index))
        elif row.kind in _KINDS:
            drafts.append(_plain_item(row, unit, position))
    return _tell_apart(drafts)


def _with_units(outline: Sequence[OutlineRow]) -> list[tuple[OutlineRow, str]]:
    """Pair each entry that is no folder with the title of its top folder."""
    unit, rows = "", []
    for row in outline:
        if row.depth == 0:
            unit = row.title if row.kind == "folder" else ""
        if row.kind != "folder":
            rows.append((row, unit))
    return rows


def _tool_item(row: OutlineRow, unit: str, position: int, index: _LineItemIndex) -> ItemDraft:
    draft = replace(_plain_item(row, unit, position), kind="practice")
    line_item, reason = index.find(row)
    if line_item is None:
        return draft
    return replace(
        draft,
        kind="graded",
        line_item=line_item.sourced_id,
        points=line_item.maximum,
        due_date=line_item.due_date,
        category=line_item.category,
        reason=reason,
    )


def _plain_item(row: OutlineRow, unit: str, position: int) -> ItemDraft:
    descriptor = row.resource.descriptor if row.resource else None
    title = row.title or (descriptor.title if descriptor else "") or f"Entry {position + 1}" + (f" of {unit}" if unit else "")
    return ItemDraft(
        key=row.id or row.reference,
        title=title,
        shown_title=title,
        kind=_KINDS.get(row.kind, "practice"),
        unit=unit,
        position=position,
        audience=row.audience,
        url=descriptor.url if descriptor else "",
        new_window=descriptor.new_window if descriptor else False,
        custom=dict(descriptor.custom) if descriptor else {},
        member=row.resource.href if row.resource and row.kind in {"page", "file"} else "",
    )


class _LineItemIndex:
    """Recognises a link's line item by custom parameter, identifier, address or title, in this order."""

    def __init__(self, line_items: Sequence[LineItem]) -> None:
        self._by_id = {each.sourced_id: each for each in line_items}
        titles = Counter(fold_title(each.title) for each in line_items)
        self._by_title = {fold_title(each.title): each for each in line_items if titles[fold_title(each.title)] == 1}

    def find(self, row: OutlineRow) -> tuple[LineItem | None, str]:
        descriptor = row.resource.descriptor if row.resource else None
        if descriptor:
            for name, value in descriptor.custom.items():
                if value in self._by_id:
                    return self._by_id[value], f"the custom parameter {name}"
        for identifier in (row.id, row.reference):
            if identifier in self._by_id:
                return self._by_id[identifier], "the identifier"
        if descriptor and (tail := urlsplit(descriptor.url).path.rsplit("/", 1)[-1]) in self._by_id:
            return self._by_id[tail], "the address"
        found = self._by_title.get(fold_title(row.title))
        return (found, "the title") if found else (None, "")


def _tell_apart(drafts: list[ItemDraft]) -> list[ItemDraft]:
    """Give items of one title a telling addition: the unit, or where that does not help, a number."""
    titles = Counter(fold_title(draft.title) for draft in drafts)
    seen: Counter[str] = Counter()
    named = []
    for draft in drafts:
        shown = draft.title
        if titles[fold_title(draft.title)] > 1 and draft.unit:
            shown = f"{draft.title} ({draft.unit})"
        seen[fold_title(shown)] += 1
        if (turn := seen[fold_title(shown)]) > 1:
            shown = f"{shown} ({turn})"
        named.append(replace(draft, shown_title=shown))
    return named
