"""We ask a publisher for content (Deep Linking 2.0): items from its own picker, ready to be
deployed.
"""

from __future__ import annotations

import hashlib
import json
import logging
from collections.abc import Sequence
from datetime import timedelta
from typing import Any
from uuid import UUID

from django.conf import settings
from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.deploy.dates import read_due
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.models import User
from vennpair.service.content.actions.tie_picked import PICKED, tie_picked
from vennpair.service.content.matching_context import line_items_of
from vennpair.service.content.models import Item
from vennpair.service.deploy.models import Picking
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.standards.lti.deep_linking import RESOURCE_LINK, ContentItem, PickSettings, points_of
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.oneroster.objects import LineItem

LIFE = timedelta(hours=12)
log = logging.getLogger(__name__)


def start_asking(pairing: Pairing, actor: User) -> Picking:
    """Begin to pick at the publisher. Raises Refused where it cannot be launched by LTI 1.3."""
    require_instructor(actor, pairing.shell)
    publisher = pairing.course.publisher
    if not publisher.can_launch or publisher.speaks == publisher.Speaks.LTI_1_1:
        raise Refused(
            "no_picker",
            f"{publisher.name} cannot be asked for content: it is not connected by LTI 1.3.",
            "Choose from the catalogue instead.",
            409,
        )
    return Picking.objects.create(side=Picking.Side.PUBLISHER, shell=pairing.shell, user=actor)


def find_asked(key: Any) -> tuple[Picking, Pairing]:
    """Return an open picking at a publisher and its pairing. Raises LtiError."""
    try:
        found = (
            Picking.objects.filter(
                pk=UUID(str(key)),
                side=Picking.Side.PUBLISHER,
                answered_at=None,
                made_at__gt=timezone.now() - LIFE,
            )
            .select_related("shell", "user")
            .first()
        )
    except ValueError:
        found = None
    pairing = (
        Pairing.objects.filter(shell=found.shell)
        .exclude(state=Pairing.State.ENDED)
        .select_related("shell__platform__institution", "course__publisher")
        .first()
        if found
        else None
    )
    if found is None or pairing is None:
        raise LtiError("bad_state", "This picking was finished already, or is too old.")
    return found, pairing


def ask_settings(picking: Picking) -> PickSettings:
    """Return what we take back from a publisher's picker."""
    return PickSettings(
        f"{settings.BASE_URL}/lti/platform/picked?picking={picking.pk}",
        (RESOURCE_LINK,),
        ("window",),
        True,
        True,
        False,
        "Choose homework",
        "",
        str(picking.pk),
    )


def take_picked(
    picking: Picking, pairing: Pairing, content: Sequence[ContentItem], data: str
) -> list[str]:
    """Store what was picked; an item that is known already is taken for itself.

    Return the items' ids. Raises LtiError.
    """
    if data != str(picking.pk):
        raise LtiError(
            "bad_state",
            "The publisher's answer belongs to another picking.",
            "Deep Linking 2.0, 4.5.5",
        )
    publisher = pairing.course.publisher
    links = [each for each in content if each.kind == RESOURCE_LINK]
    listed = _listed(pairing)
    with transaction.atomic():
        if not Picking.objects.filter(pk=picking.pk, answered_at=None).update(
            answered_at=timezone.now()
        ):
            raise LtiError("bad_state", "This picking was finished already.")
        known = list(Item.objects.select_for_update().filter(pairing=pairing))
        last = Item.objects.filter(pairing=pairing).aggregate(last=Max("position"))["last"] or 0
        chosen = [
            _item(pairing, each, known, last + number, publisher.launch_url)
            for number, each in enumerate(links, start=1)
        ]
        tied = tie_picked(pairing, listed)
        chosen = [tied.get(each.pk, each) for each in chosen]
        record(
            "picked",
            f"{many(len(chosen), 'item was', 'items were')} picked at {publisher.name}.",
            pairing=pairing,
            actor=picking.user,
            after={"items": len(chosen)},
        )
    return [str(each.pk) for each in chosen]


def _listed(pairing: Pairing) -> list[LineItem]:
    """Return the publisher's catalogue, empty where it cannot be read: what was picked is then tied
    to it when it is read next.
    """
    if not pairing.course.publisher.oneroster_url:
        return []
    try:
        return line_items_of(pairing)
    except OutsideError as error:
        log.warning("the catalogue could not be read while picking: %s", error.failure.message)
        return []


def _item(
    pairing: Pairing, each: ContentItem, known: Sequence[Item], position: int, otherwise: str
) -> Item:
    url = each.url or otherwise
    found = next(
        (
            item
            for item in known
            if item.custom == each.custom and item.custom and (item.url or otherwise) == url
        ),
        None,
    )
    if found is not None:
        return found
    opened = json.dumps([url, each.custom], sort_keys=True).encode()
    key = f"picked-{hashlib.sha256(opened).hexdigest()}"
    points = points_of(each)
    column = each.line_item
    facts = {
        "source": PICKED,
        "title": (each.title or "Untitled")[:1000],
        "shown_title": (each.title or "Untitled")[:1000],
        "kind": "graded" if points else "practice",
        "url": url[:2000],
        "custom": each.custom,
        "points": points,
        "resource": (column.resource_id if column else "")[:1000],
        "tag": (column.tag if column else "")[:255],
        "due_at": read_due(each.due_at, pairing.shell.zone),
        "reason": "picked at the publisher",
        "gone": False,
    }
    made, _ = Item.objects.update_or_create(
        pairing=pairing, key=key, defaults=facts, create_defaults=facts | {"position": position}
    )
    return made
