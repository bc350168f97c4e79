"""Order after a rollout or an import: each folder's entries and the gradebook's columns, one call
each.

Entries are made side by side, so they are as they happened to arrive.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import datetime
from typing import Any

from vennpair.core.deploy.dates import read_moment
from vennpair.core.deploy.order import inserted, orders, settled
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.content.gradebook_order import arrange_columns
from vennpair.service.content.models import Placement
from vennpair.service.content.outline_order import persist
from vennpair.service.deploy.models import Rollout
from vennpair.service.operations.steps import StepState
from vennpair.standards.outline import Node
from vennpair.standards.outline.gradebook import Gradebook


def arrange_folders(
    gateway: PlatformGateway, rollout: Rollout, made: Sequence[Placement], folders: Sequence[str]
) -> None:
    """Put new links and folders into their places: after the entry that was named, else in the
    rollout's order among all of ours.
    """
    url = rollout.pairing.shell.outline_url
    rows = _in_order(rollout, made)
    new = [*(each.entry_id for each in made), *folders]
    after = rollout.order.get("after", "")
    persist(gateway, url, lambda outline: _folder_orders(outline, rows, made, new, after))


def settle_folders(gateway: PlatformGateway, url: str, wanted: dict[str, list[str]]) -> None:
    """Give the named children of folders the order of the list, in the places that they hold
    together.
    """
    persist(
        gateway,
        url,
        lambda outline: [
            (folder, settled([node.id for node in outline if node.folder == folder], row))
            for folder, row in wanted.items()
        ],
    )


def _folder_orders(
    outline: Sequence[Node],
    rows: Sequence[Placement],
    made: Sequence[Placement],
    new: Sequence[str],
    after: str,
) -> list[tuple[str, list[str]]]:
    found = orders(
        outline, [*_folders_in_order(outline, rows), *(each.entry_id for each in rows)], set(new)
    )
    if not after:
        return found
    named = next((node.folder for node in outline if node.id == after), None)
    result = []
    for folder in dict.fromkeys(each.folder_id for each in made):
        children = [node.id for node in outline if node.folder == folder]
        mine = [
            each.entry_id for each in made if each.folder_id == folder and each.entry_id in children
        ]
        result.append(
            (folder, inserted(children, mine, after if after == "start" or folder == named else ""))
        )
    return [row for row in found if row[0] not in dict(result)] + result


def _folders_in_order(outline: Sequence[Node], rows: Sequence[Placement]) -> list[str]:
    """Return the folders that hold links of ours in the order of their first item, those around
    them too.
    """
    parent = {node.id: node.folder for node in outline if node.kind == "folder"}
    found: dict[str, None] = {}
    for each in sorted(rows, key=lambda each: each.item.position):
        at = each.folder_id
        while at in parent:
            found.setdefault(at)
            at = parent[at]
    return list(found)


def arrange_gradebook(
    gateway: PlatformGateway, rollout: Rollout, made: Sequence[Placement]
) -> None:
    """Put columns into their order and categories, in one call.

    Missing categories are made first.
    """
    with_column = [each for each in _in_order(rollout, made) if each.column_url]
    if rollout.order.get("by") == "place":
        with_column.sort(key=lambda each: each.column_place)
    arrange_columns(
        gateway,
        rollout.pairing.shell.outline_url,
        with_column,
        [each.column_url for each in made if each.column_url],
        _touched(rollout),
        f"category-{rollout.pk}",
    )


def settle_gradebook(gateway: PlatformGateway, url: str, wanted: Sequence[str]) -> None:
    """Give the named columns the order of the list, in the places that they hold together.

    Categories stay.
    """
    gateway.rearrange_gradebook(
        url, lambda book: replace(book, columns=tuple(settled(book.columns, wanted)))
    )


def note_places(pairing: Any, outline: Sequence[Node], book: Gradebook | None) -> None:
    """Note where our links and columns are among each other, so that a later change of their
    order is seen.
    """
    ours = {
        each.entry_id: each
        for each in Placement.objects.filter(pairing=pairing).exclude(entry_id="")
    }
    places: dict[str, int] = {}
    changed = []
    for node in outline:
        each = ours.get(node.id)
        if each is None:
            continue
        place = places.get(node.folder, 0)
        places[node.folder] = place + 1
        if each.place != place:
            each.place = place
            changed.append(each)
    Placement.objects.bulk_update(changed, ["place"], batch_size=500)
    if book is not None:
        column_place = {column: number for number, column in enumerate(book.columns)}
        moved = [
            each
            for each in ours.values()
            if column_place.get(each.column_url, -1) != each.column_place
        ]
        for each in moved:
            each.column_place = column_place.get(each.column_url, -1)
        Placement.objects.bulk_update(moved, ["column_place"], batch_size=500)


def sorted_by(by: str, rows: Iterable[Placement]) -> list[Placement]:
    """Return placements in the publisher's order, by unit, by due date (those without one last), or
    as they were deployed.
    """
    row = sorted(rows, key=lambda each: (each.item.position, str(each.pk)))
    if by == "place":
        return sorted(row, key=lambda each: each.place)
    if by == "due":
        return sorted(row, key=lambda each: _due(each))
    if by == "unit":
        units = list(dict.fromkeys(each.item.unit for each in row))
        return sorted(row, key=lambda each: units.index(each.item.unit))
    return row


def _due(each: Placement) -> tuple[bool, float]:
    moment: datetime | None = read_moment(each.due_at)
    return moment is None, moment.timestamp() if moment else 0.0


def _in_order(rollout: Rollout, made: Sequence[Placement]) -> list[Placement]:
    """Return all placements that are in the shell, as the rollout orders them.

    Chosen ones follow what was there.
    """
    by = rollout.order.get("by", "publisher")
    there = list(
        Placement.objects.filter(pairing=rollout.pairing)
        .exclude(entry_id="")
        .select_related("item")
    )
    if by != "chosen":
        return sorted_by(by, there)
    fresh = {each.pk for each in made}
    return [
        *sorted(
            [each for each in there if each.pk not in fresh],
            key=lambda each: (each.folder_id, each.place),
        ),
        *made,
    ]


def _touched(rollout: Rollout) -> list[Placement]:
    return list(
        Placement.objects.filter(
            steps__job=rollout.job_id,
            steps__kind__in=["link", "column", "change_link"],
            steps__state=StepState.DONE,
        )
        .distinct()
        .order_by("item__position", "pk")
    )
