"""What is listed of a pairing's content, with what a list shows."""

from __future__ import annotations

from django.db.models import Exists, F, OuterRef, QuerySet, Subquery

from vennpair.service.content.models import DeliveryStep, Entry, Import, Item
from vennpair.service.pair.models import Pairing

IN_SHELL = [Entry.State.MADE, Entry.State.UPDATED, Entry.State.SAME, Entry.State.KEPT]


def items_listed(pairing: Pairing) -> QuerySet[Item]:
    """Return the items that are still at the publisher, with ``brought`` and ``brought_into`` of
    those that an import put into the shell.
    """
    return items_standing(pairing.items.filter(gone=False))


def items_standing(items: QuerySet[Item]) -> QuerySet[Item]:
    """Return items with their placements, ``brought`` and ``brought_into``."""
    standing = (
        Entry.objects.filter(item=OuterRef("pk"), state__in=IN_SHELL)
        .exclude(node="")
        .exclude(kind="lti_link")
    )
    return items.select_related("placement").annotate(
        brought=Exists(standing),
        brought_into=Subquery(
            standing.order_by("-import_of__made_at", "-steps__job__made_at").values(
                "steps__job__delivery__folder"
            )[:1]
        ),
    )


def imports_listed(pairing: Pairing) -> QuerySet[Import]:
    """Return the imports, with ``in_shell``: whether something that one made is in the shell."""
    made = steps_in_shell().filter(entry__import_of=OuterRef("pk"))
    return pairing.imports.select_related(
        "job", "package", "pairing__shell__platform__institution", "pairing__course__publisher"
    ).annotate(in_shell=Exists(made))


def steps_in_shell() -> QuerySet[DeliveryStep]:
    """Return the steps that made an entry that is in its shell since."""
    return DeliveryStep.objects.filter(
        kind=DeliveryStep.Kind.MAKE, state=DeliveryStep.State.DONE, node=F("entry__node")
    ).exclude(node="")
