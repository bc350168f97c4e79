"""The homework course's own links as items: its home, and where learners register, as its class
tells of them.
"""

from __future__ import annotations

from typing import Any

from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.content.models import Item
from vennpair.service.pair.models import Pairing

SOURCE = "course"
LINKS = (
    ("launch", "course-home", "Homework home: {}"),
    ("registration", "course-registration", "Register for {}"),
)


def store_course_links(pairing: Pairing) -> None:
    """Read the class and store its links; one that it does not name (any more) goes.

    Raises OutsideError where the publisher does not answer now.
    """
    try:
        metadata = (
            publisher_gateway(pairing.course.publisher).course(pairing.course.sourced_id).metadata
            or {}
        )
    except OutsideError as error:
        if error.failure.kind is FailureKind.LATER:
            raise
        return  # it does not tell of single classes: then there are no links to know of
    for position, (name, key, words) in enumerate(LINKS, start=-len(LINKS)):
        link = metadata.get(name)
        if not isinstance(link, dict) or not link.get("url"):
            Item.objects.filter(pairing=pairing, key=key, source=SOURCE).update(gone=True)
            continue
        title = words.format(pairing.course.title)[:1000]
        facts: dict[str, Any] = {
            "source": SOURCE,
            "kind": "link",
            "title": title,
            "url": str(link["url"])[:2000],
            "custom": _texts(link.get("custom")),
            "position": position,
            "gone": False,
            "reason": "the publisher's catalogue",
        }
        Item.objects.update_or_create(
            pairing=pairing, key=key, defaults=facts, create_defaults=facts | {"shown_title": title}
        )


def _texts(custom: object) -> dict[str, str]:
    return (
        {str(name): str(value) for name, value in custom.items()}
        if isinstance(custom, dict)
        else {}
    )
