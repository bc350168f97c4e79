"""Where a verified launch leads: staff to the console or on to the publisher, learners on to the
publisher.
"""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect

from vennpair.core.pair.copies import placement_id
from vennpair.service.connect.models import Platform
from vennpair.service.connect.sessions import sign_in, sign_out
from vennpair.service.content.actions.adopt_links import adopt_at_launch
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.claim_written import claim_written
from vennpair.service.lti.learner_page import show_work
from vennpair.service.lti.publisher_launch import open_placement, open_test
from vennpair.service.pair.actions.open_shell import (
    admit_learner,
    admit_teacher,
    end_role,
    open_shell,
)
from vennpair.service.pair.actions.pair_course import old_pairing
from vennpair.service.pair.models import Pairing, Shell
from vennpair.service.pair.queries import may_change
from vennpair.service.set_up.queries import begun_set_up
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.launch import Launch
from vennpair.standards.lti.roles import TEACHES, Standing, is_tester, standing


def arrive(request: HttpRequest, platform: Platform, message: Launch) -> HttpResponse:
    """Learn who and where it is, then lead on. Raises LtiError where there is nowhere to go."""
    what = standing(message.roles)
    shell = open_shell(platform, message)
    teaches = what in TEACHES
    # Nobody real: in no roster, and its scores go nowhere.
    testing = not teaches and is_tester(message.roles)
    if not teaches:
        end_role(platform, shell, message.person.sub)
    if not teaches and not testing and request.user.is_authenticated:
        sign_out(request)  # the browser is somebody else's now
    if not teaches and not testing and what != "learner":
        raise _nothing_to_do(what)
    learner = None if teaches or testing else admit_learner(shell, message)
    teacher = admit_teacher(platform, shell, message) if teaches else None
    if teacher is not None:
        sign_in(request, teacher, platform, language=message.locale)
    placement = _placement(shell, message) or adopt_at_launch(shell, message)
    if (
        placement is not None
        and placement.pairing.state == Pairing.State.PAUSED
        and learner is not None
    ):
        raise LtiError("paired_paused", "Your instructor has paused the homework of this course.")
    if placement is not None:
        return (
            open_test(request, placement)
            if testing
            else open_placement(request, placement, learner, message)
        )
    pairing = Pairing.objects.filter(shell=shell).exclude(state=Pairing.State.ENDED).first()
    if learner is not None or testing:
        if learner is None or pairing is None or _named(message):
            raise _nothing_for_learners(shell, message)
        return show_work(request, pairing, learner)
    if pairing is None and shell.history and old_pairing(shell):
        return redirect(f"/shells/{shell.pk}/copied")
    if pairing is not None:
        begun = begun_set_up(pairing, teacher) if teacher is not None else None
        return redirect(f"/set-ups/{begun.pk}" if begun else f"/pairings/{pairing.pk}")
    if teacher is not None and may_change(teacher, shell):
        return redirect(f"/set-up?shell={shell.pk}")
    return redirect(f"/shells?shell={shell.pk}")


def _nothing_to_do(what: Standing) -> LtiError:
    """Say to somebody who neither teaches nor learns in the course why nothing opens."""
    if what == "mentor":
        return LtiError(
            "not_for_mentors",
            "Your course platform lists you as a mentor. Homework and scores are shown to the"
            " learner and the instructor only.",
            "LTI Core 1.3, A.2.3",
        )
    return LtiError(
        "no_course_role",
        "Your course platform gives you no part in this course, neither as its instructor nor as"
        " its learner.",
        "LTI Core 1.3, A.2",
    )


def _placement(shell: Shell, message: Launch) -> Placement | None:
    known = (
        Placement.objects.filter(pairing__shell=shell)
        .exclude(pairing__state=Pairing.State.ENDED)
        .select_related(
            "pairing__course__publisher", "pairing__shell__platform__institution", "item"
        )
    )
    found = known.filter(resource_link_id=message.resource_link_id).first()
    if found is None and (wanted := placement_id(message.custom)):
        found = known.filter(pk=wanted).first()
    if found is not None and not found.column_url:
        claim_written(found, message)
    return found


def _named(message: Launch) -> bool:
    """Say whether a message means one link, and not the tool itself."""
    return bool(message.link_history or message.custom.get("placement"))


def _nothing_for_learners(shell: Shell, message: Launch) -> LtiError:
    foreign = Placement.objects.filter(pk__in=filter(None, [placement_id(message.custom)])).exclude(
        pairing__shell=shell
    )
    if message.link_history or foreign.exists():
        return LtiError(
            "copied_link", "This link came with a copy of another course and does not open yet."
        )
    if message.custom.get("placement"):
        return LtiError("not_placed", "This link is not connected to homework.")
    return LtiError("not_for_learners", "This page is for instructors.")
