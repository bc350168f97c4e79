"""What learners are told first: written for a pairing, and placed in the shell as a page."""

from __future__ import annotations

from django.db import transaction

from vennpair.core.pair.first_steps import Access, FirstSteps, first_steps
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.standards.lti import vocabulary as v


def write_first_steps(pairing: Pairing, access: Access) -> FirstSteps:
    """Return the page for a pairing."""
    placed = pairing.placements.placed().order_by("item__position").first()
    return first_steps(
        access,
        pairing.course.publisher.name,
        pairing.course.title,
        pairing.shell.label or pairing.shell.title,
        placed.title if placed else "",
    )


def choose_first_steps(pairing: Pairing, access: Access, place: bool, actor: User) -> str:
    """Note how access is paid and, with ``place``, put the page at the top of the shell; return the
    page's entry id.

    Raises Refused, OutsideError. Asked for twice, the same page is placed once.
    """
    require_instructor(actor, pairing.shell)
    shell, entry = pairing.shell, ""
    if place:
        if not shell.outline_url or v.SCOPE_OUTLINE not in shell.scopes:
            raise Refused(
                "no_outline",
                "The platform offers no Shell Outline service, so Venn Pair cannot place the page.",
                "Copy the text into a page or message of the course yourself.",
            )
        page = write_first_steps(pairing, access)
        entry = (
            shell_gateway(shell)
            .make_entry(
                shell.outline_url,
                "page",
                f"first-steps-{pairing.pk}-{access}",
                title=page.title,
                html=page.html,
                position=0,
            )
            .id
        )
    with transaction.atomic():
        Pairing.objects.filter(pk=pairing.pk).update(access=access)
        words = (
            f"The first steps for learners (access {access}) were"
            f" {'placed in the shell' if place else 'chosen to be handed out'}."
        )
        record(
            "first_steps.placed" if place else "first_steps.chosen",
            words,
            pairing=pairing,
            actor=actor,
            after={"access": access, "entry": entry},
        )
    return entry
