"""Read a homework course's graded items straight from the publisher, and say what changed since the
last time.
"""

from __future__ import annotations

from dataclasses import asdict
from decimal import Decimal

from django.db import transaction
from django.db.models import Max

from vennpair.core.content.changes import Change, Facts, changes, in_words
from vennpair.service.connect.models import User
from vennpair.service.content.actions.course_links import store_course_links
from vennpair.service.content.actions.tie_picked import PICKED, tie_picked
from vennpair.service.content.hooks import dates_moved
from vennpair.service.content.matching_context import line_items_of, told
from vennpair.service.content.models import CatalogueReading, Item
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.trail import record
from vennpair.service.stored import CatalogueSays
from vennpair.standards.oneroster.objects import LineItem

MOST_KEPT = 500


def refresh_catalogue(pairing: Pairing, actor: User | None = None) -> CatalogueReading:
    """Read and store; items that no cartridge told of are made.

    Raises OutsideError; the state before is kept then.
    """
    listed = {each.sourced_id: each for each in line_items_of(pairing)}
    store_course_links(pairing)
    with transaction.atomic():
        tie_picked(pairing, list(listed.values()))
        items = {
            item.line_item: item
            for item in (
                Item.objects.select_for_update().filter(pairing=pairing).exclude(line_item="")
            )
        }
        before = {
            key: _facts(item.catalogue or _seen(item), item.gone) for key, item in items.items()
        }
        after = {key: _facts(told(each)) for key, each in listed.items()}
        found = changes(before, after)
        last = Item.objects.filter(pairing=pairing).aggregate(last=Max("position"))["last"]
        for place, each in enumerate(listed.values(), start=0 if last is None else last + 1):
            _store(pairing, items.get(each.sourced_id), each, place)
        Item.objects.filter(
            pk__in=[item.pk for key, item in items.items() if key not in listed]
        ).update(gone=True)
        reading = CatalogueReading.objects.create(
            pairing=pairing, items=len(listed), changes=[asdict(each) for each in found[:MOST_KEPT]]
        )
        if any(each.kind == "date" for each in found):
            dates_moved(pairing)
        if found:
            record(
                "catalogue.read",
                f"The publisher's catalogue was read: {in_words(found)}.",
                pairing=pairing,
                actor=actor,
                after={"changes": len(found)},
            )
    return reading


def words_of(reading: CatalogueReading) -> str:
    """Return what a reading found, in words."""
    return in_words([Change(**each) for each in reading.changes])


def _store(pairing: Pairing, item: Item | None, each: LineItem, place: int) -> None:
    """Bring one item in line; a name that was given here stays, one that is the publisher's follows
    it.
    """
    said = told(each)
    if item is None:
        Item.objects.create(
            pairing=pairing,
            key=f"line-{each.sourced_id}"[:255],
            title=each.title[:1000],
            shown_title=each.title[:1000],
            kind="graded",
            unit=each.category[:500],
            position=place,
            url=each.launch_url[:2000],
            custom=each.launch_custom,
            line_item=each.sourced_id[:255],
            points=each.maximum,
            due_at=each.due_at,
            category=each.category[:255],
            reason="the publisher's catalogue",
            catalogue=said,
        )
        return
    if item.title == (item.catalogue or {}).get("title") and item.title != each.title:
        item.shown_title = each.title[:1000] if item.shown_title == item.title else item.shown_title
        item.title = each.title[:1000]
    picked = item.source == PICKED  # what the catalogue leaves open stays as the picker said
    item.points = item.points if picked and each.maximum is None else each.maximum
    item.due_at = item.due_at if picked and not each.due_at else each.due_at
    item.category = each.category[:255]
    item.catalogue, item.gone = said, False
    item.save()


def _seen(item: Item) -> CatalogueSays:
    """Return the facts of an item that no catalogue told of so far.

    The package's title stands for the publisher's.
    """
    return CatalogueSays(
        title=item.title,
        points="" if item.points is None else f"{item.points.normalize():f}",
        due_at=item.due_at,
        place=item.category,
    )


def _facts(said: CatalogueSays, gone: bool = False) -> Facts:
    return Facts(
        said["title"],
        Decimal(said["points"]) if said["points"] else None,
        said["due_at"],
        said["place"],
        gone,
    )
