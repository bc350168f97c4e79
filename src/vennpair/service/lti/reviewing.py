"""Submission Review 1.0 at the browser's side: from a cell of the gradebook, or from our story of
it, to the publisher's page of what a learner handed in.
"""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET

from vennpair.service.connect.authentication import signed_in
from vennpair.service.connect.models import Platform
from vennpair.service.connect.sessions import sign_in
from vennpair.service.content.models import Placement
from vennpair.service.lti.pages import refusal
from vennpair.service.lti.publisher_launch import open_review
from vennpair.service.pair.actions.open_shell import admit_teacher, open_shell
from vennpair.service.pair.models import Learner, Pairing, Shell
from vennpair.service.pair.queries import shells_for
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.review import ReviewRequest
from vennpair.standards.lti.roles import TEACHES, standing


def arrive_to_review(
    request: HttpRequest, platform: Platform, asked: ReviewRequest
) -> HttpResponse:
    """Lead a teacher, or the learner whose work it is, on to the publisher.

    Raises LtiError for anybody else, or where there is nothing to show.
    """
    message, what = asked.launch, standing(asked.launch.roles)
    own = what == "learner" and message.person.sub == asked.learner.sub
    if what not in TEACHES and not own:
        raise LtiError(
            "not_for_learners", "Only the instructor and the learner may see what was handed in."
        )
    shell = open_shell(platform, message, whole=False)
    if what in TEACHES:
        user = admit_teacher(platform, shell, message)
        sign_in(request, user, platform, language=message.locale)
    column = message.grades.lineitem if message.grades else ""
    placement = _placement(shell, message.resource_link_id, column)
    learner = Learner.objects.filter(shell=shell, subject=asked.learner.sub).first()
    if learner is None:
        raise LtiError(
            "nothing_to_review", "This learner is not known here; they have opened nothing yet."
        )
    return open_review(request, placement, learner, learner if own else None)


@require_GET
def review(request: HttpRequest, placement_id: Any, learner_id: Any) -> HttpResponse:
    """Lead somebody who is signed in here on from our story of a cell."""
    try:
        user: Any = request.user
        if not user.is_authenticated:
            raise LtiError("wrong_person", "Sign in to Venn Pair first.")
        mine = Placement.objects.filter(pairing__shell__in=shells_for(signed_in(request)))
        placement = mine.filter(pk=placement_id).select_related("pairing__course__publisher")
        found = placement.first()
        learner = (
            Learner.objects.filter(pk=learner_id, shell=found.pairing.shell_id).first()
            if found
            else None
        )
        if found is None or learner is None:
            raise LtiError(
                "nothing_to_review", "This item or learner was not found in your shells."
            )
        return open_review(request, found, learner, None)
    except LtiError as error:
        return refusal(request, error)


def _placement(shell: Shell, link: str, column: str) -> Placement:
    """Return the placement that a message means, by its link, else its line item."""
    known = Placement.objects.filter(pairing__shell=shell).exclude(
        pairing__state=Pairing.State.ENDED
    )
    found = known.filter(resource_link_id=link).first() or known.filter(column_url=column).first()
    if found is None:
        raise LtiError("not_placed", "This column does not belong to homework placed here.")
    return found
