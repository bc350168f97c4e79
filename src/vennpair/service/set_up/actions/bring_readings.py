"""Readings and videos that come along with a section's links: pages, files and web links for
learners that its homework course's package has and the shell does not.
"""

from __future__ import annotations

from vennpair.core.content.groups import Treatment
from vennpair.service.connect.models import User
from vennpair.service.content.actions.plan_delivery import Order, plan_delivery
from vennpair.service.content.actions.start_delivery import start_delivery
from vennpair.service.content.models import Entry, Import
from vennpair.service.content.queries import IN_SHELL
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.pair.models import Pairing

KINDS = ("page", "file", "web_link")


def readings_of(pairing: Pairing, review: Treatment) -> list[Entry]:
    """Return them, in the package's order; none of units that are left out."""
    made = _package(pairing)
    if made is None:
        return []
    known = Entry.objects.filter(import_of__pairing__shell=pairing.shell_id, state__in=IN_SHELL)
    brought = set(known.exclude(node="").values_list("key", flat=True))
    rows = list(made.entries.order_by("position"))
    groups = {each.position: each.group for each in rows}
    return [
        each
        for each in rows
        if each.kind in KINDS
        and each.audience == "everyone"
        and not each.blocked
        and each.key not in brought
        and not (review == "leave_out" and groups.get(each.parent) == "review")
    ]


def start_bringing(pairing: Pairing, review: Treatment, actor: User) -> Job | None:
    """Begin to bring them in, in order among the links; None where there is nothing to bring.

    Raises Refused, OutsideError.
    """
    made, wanted = _package(pairing), readings_of(pairing, review)
    if made is None or not wanted:
        return None
    placed = made.entries.filter(kind="lti_link", item__placement__state="placed")
    chosen = [str(each.pk) for each in (*wanted, *placed)]
    plan = plan_delivery(made, Order(entries=tuple(chosen), review=review, joins=True))
    try:
        return start_delivery(plan, actor).job
    except Refused as refused:
        if refused.code == "nothing_to_do":
            return None
        raise


def _package(pairing: Pairing) -> Import | None:
    """Return the last reading of the publisher's package."""
    read = pairing.imports.filter(source="publisher", entries__isnull=False)
    return read.order_by("-made_at").first()
