"""Where an item's link leads at the publisher: its own address, one made by the publisher's
pattern, or else only the publisher's front page.
"""

from __future__ import annotations

from vennpair.core.deploy.address import by_pattern
from vennpair.service.connect.models import Publisher
from vennpair.service.content.models import Item
from vennpair.service.pair.models import HomeworkCourse


def address_of(item: Item, course: HomeworkCourse) -> str:
    """Return the address that a link of an item opens; the publisher's own where none is known."""
    publisher = course.publisher
    if item.url and item.url != publisher.launch_url:
        return item.url
    if not item.custom and publisher.item_address and item.line_item:
        fields = {"line_item": item.line_item, "course": course.sourced_id}
        return by_pattern(publisher.item_address, fields)
    return item.url or publisher.launch_url


def opens_itself(item: Item, publisher: Publisher) -> bool:
    """Say whether a link of an item can open the item, and not only the publisher's front page.

    Only what is launched with a purpose needs an address of its own.
    """
    if item.kind not in {"graded", "practice"} or item.custom:
        return True
    own = bool(item.url) and item.url != publisher.launch_url
    return own or bool(publisher.item_address and item.line_item)
