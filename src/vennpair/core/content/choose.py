"""Choosing from an outline: all, by entry, folder, kind or words.

Folders around what was chosen come along.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Protocol

from vennpair.core.content.groups import BESIDE, REVIEW, Treatment


class Row(Protocol):
    """What choosing needs to know of an entry.

    ``parent`` is the position of its folder, -1 at the top.
    """

    @property
    def position(self) -> int: ...
    @property
    def parent(self) -> int: ...
    @property
    def kind(self) -> str: ...
    @property
    def shown_title(self) -> str: ...
    @property
    def group(self) -> str: ...


@dataclass(frozen=True, slots=True)
class Wish:
    """What somebody wants: what any of ``positions``, ``folders``, ``kinds`` or ``words`` names, or
    everything that is in the outline.

    ``positions`` are single entries; ``folders`` are positions of folders, wanted with all that is
    in them. ``kinds`` and ``words`` narrow a folder where both are given.
    """

    everything: bool = False
    positions: frozenset[int] = frozenset()
    folders: frozenset[int] = frozenset()
    kinds: frozenset[str] = frozenset()
    words: str = ""
    review: Treatment = "keep"

    @property
    def empty(self) -> bool:
        """Say whether nothing was asked for."""
        return not (self.everything or self.positions or self.folders or self.kinds or self.words)


@dataclass(frozen=True, slots=True)
class Choice:
    """The positions that go in, folders around them included; those hidden.

    And those left out as a group.
    """

    wanted: frozenset[int]
    hidden: frozenset[int] = field(default_factory=frozenset)
    left_out: frozenset[int] = field(default_factory=frozenset)


def choose(rows: Sequence[Row], wish: Wish) -> Choice:
    """Return what a wish means for an outline in reading order."""
    parents = {row.position: row.parent for row in rows}
    inside = _inside(rows, wish.folders)
    picked = {row.position for row in rows if _asked(row, wish, inside)}
    left_out = (
        {row.position for row in rows if row.group == REVIEW and row.position in picked}
        if wish.review == "leave_out"
        else set()
    )
    picked -= left_out
    wanted = set(picked)
    for position in picked:
        while (position := parents[position]) >= 0 and position not in wanted:
            wanted.add(position)
    hidden = (
        {row.position for row in rows if row.group == REVIEW and row.position in wanted}
        if wish.review == "hide"
        else set()
    )
    return Choice(frozenset(wanted), frozenset(hidden), frozenset(left_out))


def _inside(rows: Sequence[Row], folders: frozenset[int]) -> set[int]:
    """Return the folders and all that is in them.

    A row comes after its folder, so one pass does.
    """
    found: set[int] = set()
    for row in rows:
        if row.position in folders or row.parent in found:
            found.add(row.position)
    return found


def _asked(row: Row, wish: Wish, inside: set[int]) -> bool:
    if row.position in wish.positions:
        return True
    if wish.everything:
        return row.group != BESIDE
    narrowed = bool(wish.kinds or wish.words)
    if wish.folders and row.position not in inside:
        return False
    if not narrowed:
        return bool(wish.folders)
    fits_kind = not wish.kinds or row.kind in wish.kinds
    fits_words = not wish.words or all(
        word in row.shown_title.casefold() for word in wish.words.casefold().split()
    )
    return fits_kind and fits_words
