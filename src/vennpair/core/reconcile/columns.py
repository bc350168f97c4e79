"""Which item is which column: by title, exact first, then folded (CONTRACTS, Items)."""

from __future__ import annotations

import unicodedata
from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import Decimal


@dataclass(frozen=True, slots=True)
class ColumnPair:
    """An item and its column by position; one side is None where it has no partner."""

    item: int | None
    column: int | None
    ambiguous: bool = False

    @property
    def matched(self) -> bool:
        """Say whether both sides are there."""
        return self.item is not None and self.column is not None


def fold_title(title: str) -> str:
    """Normalise, casefold and collapse the white space of a title."""
    return " ".join(
        unicodedata.normalize("NFC", unicodedata.normalize("NFC", title).casefold()).split()
    )


def match_titles(items: Sequence[str], columns: Sequence[str]) -> list[ColumnPair]:
    """Match titles; the result has every item in order, then the columns that no item claimed."""
    found: dict[int, int] = {}
    ambiguous: tuple[set[int], set[int]] = (set(), set())
    for fold in (_exact, fold_title):
        _match_by(fold, items, columns, found, ambiguous)
    taken = set(found.values())
    rows = [ColumnPair(i, found.get(i), i in ambiguous[0]) for i in range(len(items))]
    return rows + [
        ColumnPair(None, j, j in ambiguous[1]) for j in range(len(columns)) if j not in taken
    ]


def findings(
    pair: ColumnPair, item_points: Decimal | None, column_points: Decimal | None
) -> list[str]:
    """Return the codes that a pair earns from its titles and points."""
    codes = []
    if pair.ambiguous:
        codes.append("title_ambiguous")
    elif pair.column is None:
        codes.append("column_missing")
    elif pair.item is None:
        codes.append("column_extra")
    if pair.matched:
        if not item_points or not column_points:
            codes.append("points_missing")
        elif item_points != column_points:
            codes.append("points_differ")
    return codes


def _exact(title: str) -> str:
    return title.strip()


def _match_by(
    fold: Callable[[str], str],
    items: Sequence[str],
    columns: Sequence[str],
    found: dict[int, int],
    ambiguous: tuple[set[int], set[int]],
) -> None:
    """Pair titles that fold alike; several on a side cannot be told apart and match nothing."""
    taken = set(found.values())
    left: dict[str, list[int]] = defaultdict(list)
    right: dict[str, list[int]] = defaultdict(list)
    for i, title in enumerate(items):
        if i not in found:
            left[fold(title)].append(i)
    for j, title in enumerate(columns):
        if j not in taken:
            right[fold(title)].append(j)
    for key, ours in left.items():
        theirs = right.get(key, [])
        if len(ours) == 1 and len(theirs) == 1:
            if ours[0] not in ambiguous[0] and theirs[0] not in ambiguous[1]:
                found[ours[0]] = theirs[0]
        elif theirs:
            ambiguous[0].update(ours)
            ambiguous[1].update(theirs)
