"""Placements and items as the rules of deploying know them, and back."""

from __future__ import annotations

from decimal import Decimal

from django.conf import settings

from vennpair.core.deploy.drift import Deployed
from vennpair.core.deploy.target import Candidate, Standing, Target
from vennpair.service.connect.models import Publisher
from vennpair.service.content.addresses import opens_itself
from vennpair.service.content.models import Item, Placement
from vennpair.service.stored import LinkWrite, PlacedFields, PublisherSays

FIELDS = (
    "title",
    "points",
    "due_at",
    "category",
    "visible",
    "shown_from",
    "new_window",
    "shift_days",
    "seen",
)  # the fields of ``stands``
PAGE = "page"  # in ``seen``: the page whose text a link is opened from


def launch_url() -> str:
    """Return the address that every link of ours opens."""
    return f"{settings.BASE_URL}/lti/launch"


def custom_of(placement: Placement) -> dict[str, str]:
    """Return the custom parameters by which a link names its placement."""
    return {"placement": str(placement.pk)}


def entry_of(placement: Placement, item: Item) -> LinkWrite:
    """Return what an item's entry is: a link to us that names its placement, or a web link that
    needs nobody in between.
    """
    if web_link(item):
        return {"kind": "web_link", "url": item.url}
    return {"kind": "lti_link", "url": launch_url(), "custom": custom_of(placement)}


def web_link(item: Item) -> bool:
    """Say whether an item is a plain web address: a link that carries nothing which a publisher
    would have to know.
    """
    return item.kind == "link" and not item.custom


def candidate(item: Item, publisher: Publisher) -> Candidate:
    """Return an item with what is there of it. ``publisher`` is its course's.

    ``placement`` is to be loaded with it, and ``brought`` where an import may have put it there.
    """
    placement = getattr(item, "placement", None)
    half = (
        placement is not None
        and placement.state == Placement.State.FAILED
        and bool(placement.entry_id)
    )
    there = (
        standing(placement, item)
        if placement is not None and (half or placement.state == Placement.State.PLACED)
        else None
    )
    return Candidate(
        str(item.pk),
        item.shown_title,
        item.kind,
        plain(item.points),
        item.due_at,
        item.audience,
        item.unit,
        item.category,
        item.position,
        there,
        bool(getattr(item, "brought", False)),
        half,
        opens_itself(item, publisher),
    )


def standing(placement: Placement, item: Item | None = None) -> Standing:
    """Return a placement as it was deployed.

    Where nobody has looked yet, what the publisher says now stands for what it said.
    """
    half = placement.state == Placement.State.FAILED and not placement.column_url
    target = Target(
        placement.title,
        None if half else plain(placement.points),
        placement.due_at,
        placement.category,
        placement.visible,
        placement.shown_from,
        placement.new_window,
    )
    seen = placement.seen or seen_of(item or placement.item)
    said = Target(
        seen["title"],
        Decimal(seen["points"]) if seen["points"] else None,
        seen["due_at"],
        seen["category"],
    )
    return Standing(
        target,
        placement.folder_id,
        placement.folder,
        placement.shift_days,
        said,
        placement.entry_id,
    )


def seen_of(item: Item) -> PublisherSays:
    """Return what the publisher says of an item now, as a placement keeps it."""
    points = plain(item.points)
    return {
        "title": item.shown_title,
        "points": "" if points is None else f"{points:f}",
        "due_at": item.due_at,
        "category": item.category,
    }


def deployed(placement: Placement, publisher: Publisher) -> Deployed:
    """Return a placement as drift is looked for; ``item`` is to be loaded with it."""
    item = placement.item
    now = None if item.gone else candidate(item, publisher)
    entry = entry_of(placement, item)
    return Deployed(
        str(placement.pk),
        standing(placement),
        placement.entry_id,
        placement.resource_link_id,
        placement.column_url,
        placement.place,
        now,
        entry.get("custom", {}),
        entry["url"],
        placement.column_place,
    )


def placed_fields(target: Target, seen: PublisherSays, shift_days: int) -> PlacedFields:
    """Return a placement's fields once a target is placed; JSON, as steps keep it."""
    return {
        "title": target.title,
        "points": None if target.points is None else f"{target.points:f}",
        "due_at": target.due_at,
        "category": target.category,
        "visible": target.visible,
        "shown_from": target.shown_from,
        "new_window": target.new_window,
        "shift_days": shift_days,
        "seen": {**seen},
    }


def fields_now(placement: Placement, zone: str) -> PlacedFields:
    """Return a placement's fields as they are, in the same form; ``zone`` is its course's."""
    target = standing(placement).in_zone(zone).target
    found = placed_fields(target, placement.seen, placement.shift_days)
    found["folder"] = placement.folder
    return found


def plain(points: Decimal | None) -> Decimal | None:
    """Return points without trailing zeros, never in scientific notation."""
    if points is None:
        return None
    value = points.normalize()
    return value.quantize(Decimal(1)) if value.as_tuple().exponent > 0 else value  # type: ignore[operator]
