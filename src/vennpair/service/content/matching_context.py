"""What is known beside a package: the publisher's graded items, whose host is whose, and what the
instructor corrected.
"""

from __future__ import annotations

import os
from dataclasses import replace
from urllib.parse import urlsplit

from django.conf import settings

from vennpair.core.content.matching import Knowledge
from vennpair.core.deploy.dates import read_due
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.connect.models import Publisher
from vennpair.service.content.models import Correction, Placement
from vennpair.service.pair.models import Pairing
from vennpair.service.stored import CatalogueSays
from vennpair.standards.cartridge import Limits
from vennpair.standards.oneroster.objects import LineItem

OWN_LAUNCH = f"{settings.BASE_URL}/lti/launch"


def limits() -> Limits:
    """Return the limits for cartridges from the environment."""
    return Limits.from_environment(os.environ)


def known_hosts(pairing: Pairing) -> frozenset[str]:
    """Return the hosts of the institution's registered publishers, and our own: links that we wrote
    come back.
    """
    return frozenset({*_hosts(pairing), (urlsplit(settings.BASE_URL).hostname or "").lower()})


def knowledge_of(pairing: Pairing) -> Knowledge:
    """Return all that is known for a pairing. Raises OutsideError."""
    own = pairing.course.publisher
    hosts = _hosts(pairing)
    corrections = list(Correction.objects.filter(pairing=pairing))
    return Knowledge(
        line_items=line_items_of(pairing),
        publisher_hosts=frozenset(
            host for host, publisher in hosts.items() if publisher.pk == own.pk
        ),
        other_hosts={
            host: publisher.name for host, publisher in hosts.items() if publisher.pk != own.pk
        },
        corrections={each.key: each.line_item for each in corrections if each.line_item},
        titles={each.key: each.title for each in corrections if each.title},
        own_launch=OWN_LAUNCH,
        own_placements=frozenset(
            str(pk) for pk in Placement.objects.filter(pairing=pairing).values_list("pk", flat=True)
        ),
    )


def line_items_of(pairing: Pairing) -> list[LineItem]:
    """Return the publisher's graded items with their categories by title and their due dates as
    moments of the course. Raises OutsideError.
    """
    gateway = publisher_gateway(pairing.course.publisher)
    titles = {each.sourced_id: each.title for each in gateway.categories(pairing.course.sourced_id)}
    return [
        replace(
            each,
            category=titles.get(each.category, each.category),
            due_at=read_due(each.due_at, pairing.shell.zone),
        )
        for each in gateway.line_items(pairing.course.sourced_id)
    ]


def told(each: LineItem) -> CatalogueSays:
    """Return what the catalogue says of an item, as items keep it."""
    return CatalogueSays(
        title=each.title,
        points="" if each.maximum is None else f"{each.maximum.normalize():f}",
        due_at=each.due_at,
        place=each.category,
        attempts=each.attempts,
    )


def _hosts(pairing: Pairing) -> dict[str, Publisher]:
    """Return the institution's publishers by host, the pairing's own where two share one."""
    publishers = pairing.shell.platform.institution.publishers.filter(active=True)
    own = pairing.course.publisher_id
    return {
        host: each
        for each in sorted(publishers, key=lambda each: each.pk == own)
        if (host := (urlsplit(each.launch_url).hostname or "").lower())
    }
