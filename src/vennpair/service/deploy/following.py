"""Following drift: the steps that bring what was placed to what was deployed, with what the
publisher changed since.
"""

from __future__ import annotations

from collections.abc import Sequence

from vennpair.core.deploy.dates import shifted
from vennpair.service.content.models import Placement
from vennpair.service.deploy.mapping import PAGE, entry_of, fields_now, plain, seen_of
from vennpair.service.deploy.models import DriftFound, Step
from vennpair.service.stored import (
    ColumnStep,
    ColumnWrite,
    GradebookStep,
    LinkStep,
    LinkWrite,
    OrderStep,
    PageStep,
    PlacedFields,
    PublisherSays,
)

AT_LINK = {
    "title",
    "visible",
    "new_window",
    "shown_from",
    "due_at",
    "folder",
    "leads_elsewhere",
    "item_title",
    "item_due",
}
AT_COLUMN = {
    "points",
    "column_title",
    "column_due",
    "column_link",
    "item_title",
    "item_points",
    "item_due",
}
AT_GRADEBOOK = {"category", "item_category"}


def follow(placement: Placement, kinds: set[str]) -> list[Step]:
    """Return the steps that bring a link, its column and its category to what was deployed, with
    what the publisher changed since.
    """
    if "item_gone" in kinds:
        return [
            Step(kind="remove_link", placement=placement)
        ]  # the column stays: it may hold scores
    wanted = _wanted(placement, kinds)
    entry = entry_of(placement, placement.item)
    at_link = _at_link(wanted, placement)
    steps = _follow_around(placement, kinds)
    if "link_gone" in kinds:
        steps.append(
            Step(
                kind="link",
                placement=placement,
                facts=LinkStep(
                    write={**entry, **at_link}, stands=wanted, column="column_gone" in kinds
                ),
            )
        )
        kinds = kinds | (
            {"column_link"} if placement.column_url and "column_gone" not in kinds else set()
        )
    elif kinds & (AT_LINK | AT_GRADEBOOK | AT_COLUMN):
        facts = LinkStep(write=_write(placement, kinds, at_link, entry), stands=wanted)
        steps.append(Step(kind="change_link", placement=placement, facts=facts))
    if wanted["points"] is not None and kinds & (AT_COLUMN | {"column_gone"}):
        column = ColumnWrite(
            title=wanted["title"],
            points=wanted["points"],
            due_at=wanted["due_at"],
            shown_from=wanted["shown_from"],
        )
        steps.append(
            Step(
                kind=(
                    "column"
                    if "column_gone" in kinds or not placement.column_url
                    else "change_column"
                ),
                placement=placement,
                facts=ColumnStep(write=column),
            )
        )
    return steps


def _at_link(wanted: PlacedFields, placement: Placement) -> LinkWrite:
    return LinkWrite(
        title=wanted["title"],
        visible=wanted["visible"],
        new_window=wanted["new_window"],
        shown_from=wanted["shown_from"],
        due_at=wanted["due_at"],
        folder=placement.folder_id,
    )


def _write(
    placement: Placement, kinds: set[str], at_link: LinkWrite, entry: LinkWrite
) -> LinkWrite:
    """Return what is written at a link that is there; nothing where the platform tells of no links,
    so that only the column is written.
    """
    if not placement.entry_id:
        return {}
    write: LinkWrite = {**at_link} if kinds & AT_LINK else {}
    if "visible" in kinds and at_link["visible"]:
        write["audience"] = "everyone"
    if "leads_elsewhere" in kinds:
        write.update(entry)
        write.pop("kind", None)
    if "folder" not in kinds:
        write.pop("folder", None)
    return write


def page_steps(drifts: Sequence[DriftFound]) -> list[Step]:
    """Return one step for each page that lost links: two at once would undo each other."""
    pages: dict[str, list[str]] = {}
    for each in drifts:
        if each.kind == "page_link" and PAGE in each.placement.seen:
            pages.setdefault(each.placement.seen[PAGE], []).append(str(each.placement_id))
    return [
        Step(kind="page", facts=PageStep(page=page, placements=lost))
        for page, lost in pages.items()
    ]


def _follow_around(placement: Placement, kinds: set[str]) -> list[Step]:
    """Return the steps for what is not one link's: a hidden folder around it, the order of a folder
    or of the gradebook.
    """
    steps = []
    if "folder_hidden" in kinds:
        steps.append(Step(kind="show_folders", placement=placement))
    if "column_order" in kinds:
        columns = (
            Placement.objects.filter(pairing=placement.pairing, column_place__gte=0)
            .exclude(column_url="")
            .order_by("column_place")
        )
        steps.append(
            Step(
                kind="gradebook",
                facts=GradebookStep(columns=list(columns.values_list("column_url", flat=True))),
            )
        )
    if "order" in kinds:
        row = (
            Placement.objects.filter(
                pairing=placement.pairing, folder_id=placement.folder_id, place__gte=0
            )
            .exclude(entry_id="")
            .order_by("place")
        )
        steps.append(
            Step(
                kind="order",
                facts=OrderStep(
                    folder=placement.folder_id,
                    children=list(row.values_list("entry_id", flat=True)),
                ),
            )
        )
    return steps


def _wanted(placement: Placement, kinds: set[str]) -> PlacedFields:
    """Return a placement's fields with the publisher's changes that are followed.

    What it says is then seen.
    """
    zone = placement.pairing.shell.zone
    item, wanted = placement.item, fields_now(placement, zone)
    seen: PublisherSays = dict(placement.seen)  # type: ignore[assignment]  # of that shape
    now = seen_of(item)
    if "item_title" in kinds:
        wanted["title"], seen["title"] = item.shown_title[:255], now["title"]
    if "item_points" in kinds:
        points = plain(item.points)
        wanted["points"], seen["points"] = (
            (f"{points:f}" if points and placement.column_url else wanted["points"]),
            now["points"],
        )
    if "item_due" in kinds:
        wanted["due_at"], seen["due_at"] = (
            shifted(item.due_at, placement.shift_days, zone)[0],
            now["due_at"],
        )
    if "item_category" in kinds:
        wanted["category"], seen["category"] = (
            item.category if placement.column_url else "",
            now["category"],
        )
    wanted["seen"] = seen
    return wanted
