"""Which graded item a tool's link opens: by the instructor's correction, custom parameter,
identifier, address or title.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from urllib.parse import urlsplit

from vennpair.core.reconcile.columns import fold_title
from vennpair.standards.cartridge import OutlineRow
from vennpair.standards.oneroster.objects import LineItem

CORRECTION, TITLE = "the instructor's correction", "the title"
NOT_ITS_OWN = {CORRECTION, TITLE}  # reasons that say nothing of where the link's own address leads
NO_ITEM = "none"  # the correction that says: this link opens no graded item


@dataclass(frozen=True, slots=True)
class Knowledge:
    """What is known beside the package.

    ``publisher_hosts`` are the hosts of the pairing's own publisher, ``other_hosts`` those of the
    institution's other publishers, by their name; ``corrections`` and ``titles`` are the
    instructor's, by an entry's key. ``own_launch`` is where links lead that we wrote ourselves,
    ``own_placements`` those that this pairing knows.
    """

    line_items: Sequence[LineItem] = ()
    publisher_hosts: frozenset[str] = frozenset()
    other_hosts: Mapping[str, str] = field(default_factory=dict)
    corrections: Mapping[str, str] = field(default_factory=dict)
    titles: Mapping[str, str] = field(default_factory=dict)
    own_launch: str = ""
    own_placements: frozenset[str] = frozenset()

    def is_own(self, url: str) -> bool:
        """Say whether a link leads to ourselves."""
        return bool(self.own_launch) and url == self.own_launch


class LineItemIndex:
    """Recognises a link's line item, with the reason."""

    def __init__(self, knowledge: Knowledge) -> None:
        self._corrections = knowledge.corrections
        self._by_id = {each.sourced_id: each for each in knowledge.line_items}
        titles = Counter(fold_title(each.title) for each in knowledge.line_items)
        self._by_title = {
            fold_title(each.title): each
            for each in knowledge.line_items
            if titles[fold_title(each.title)] == 1
        }

    def find(self, row: OutlineRow, key: str) -> tuple[LineItem | None, str]:
        """Return the line item of a link and by what it was recognised.

        None where it opens no graded item.
        """
        corrected = self._corrections.get(key)
        if corrected == NO_ITEM:
            return None, CORRECTION
        if corrected in self._by_id:
            return self._by_id[str(corrected)], CORRECTION
        descriptor = row.resource.descriptor if row.resource else None
        for name, value in descriptor.custom.items() if descriptor else ():
            if value in self._by_id:
                return self._by_id[value], f"the custom parameter {name}"
        for identifier in (row.id, row.reference):
            if identifier in self._by_id:
                return self._by_id[identifier], "the identifier"
        if descriptor and (tail := _last_part(descriptor.url)) in self._by_id:
            return self._by_id[tail], "the address"
        found = self._by_title.get(fold_title(row.title))
        return (found, TITLE) if found else (None, "")


def _last_part(url: str) -> str:
    try:
        return urlsplit(url).path.rstrip("/").rsplit("/", 1)[-1]
    except ValueError:
        return ""
