"""Where new entries go among those that stand in a folder already."""

from __future__ import annotations

from collections.abc import Sequence


def ordered(children: Sequence[str], made: Sequence[str], siblings: Sequence[str]) -> list[str]:
    """Return the new order of a folder's children.

    ``children`` are all as they stand now, ``made`` the new ones among them, ``siblings`` those of the import in its own
    order (new and old). What stood there keeps its place; each new one follows the import's entry before it, or goes
    before the one after it, or to the end.
    """
    fresh = set(made)
    result = [child for child in children if child not in fresh]
    present = set(children)
    row = [each for each in siblings if each in present]
    for index, each in enumerate(row):
        if each not in fresh:
            continue
        before = next((other for other in reversed(row[:index]) if other in result), None)
        after = next((other for other in row[index + 1 :] if other not in fresh), None)
        if before is not None:
            result.insert(result.index(before) + 1, each)
        elif after is not None:
            result.insert(result.index(after), each)
        else:
            result.append(each)
    return result
