"""Where new entries go among those that are in a folder already."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from vennpair.core.deploy.places import START
from vennpair.standards.outline import Node


def orders(
    outline: Sequence[Node], siblings: Sequence[str], made: Collection[str]
) -> list[tuple[str, list[str]]]:
    """Return each folder whose children must change places, with its new order.

    ``siblings`` are the nodes of one import or rollout in their own order, ``made`` the new ones
    among them.
    """
    children: dict[str, list[str]] = {}
    for node in outline:
        children.setdefault(node.folder, []).append(node.id)
    place = {node.id: node.folder for node in outline}
    rows: dict[str, list[str]] = {}
    for each in siblings:
        if each in place:
            rows.setdefault(place[each], []).append(each)
    wanted = {
        folder: ordered(children[folder], [each for each in row if each in made], row)
        for folder, row in rows.items()
    }
    return [(folder, order) for folder, order in wanted.items() if order != children[folder]]


def ordered(children: Sequence[str], made: Sequence[str], siblings: Sequence[str]) -> list[str]:
    """Return the new order of a folder's children.

    ``children`` are all as they are now, ``made`` the new ones among them, ``siblings`` those of
    the import in its own order (new and old). What was there keeps its place; each new one
    follows the import's entry before it, or goes before the one after it, or to the end.
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


def inserted(children: Sequence[str], made: Sequence[str], after: str) -> list[str]:
    """Return a folder's children with ``made`` in their order after the child ``after``, or before
    all where it is ``start``.

    Where that child is not there (any more), they go to the end.
    """
    moving = set(made)
    rest = [child for child in children if child not in moving]
    at = 0 if after == START else rest.index(after) + 1 if after in rest else len(rest)
    return [*rest[:at], *made, *rest[at:]]


def settled(now: Sequence[str], wanted: Sequence[str]) -> list[str]:
    """Return ``now`` with those of ``wanted`` in their wanted order, in the places that they hold
    together; the others stay.
    """
    moving = [each for each in wanted if each in set(now)]
    rest = iter(moving)
    members = set(moving)
    return [next(rest) if each in members else each for each in now]
