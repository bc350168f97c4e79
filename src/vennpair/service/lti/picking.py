"""Deep Linking 2.0 at the browser's side: a platform asks us for content, and we ask a
publisher.
"""

from __future__ import annotations

import time
from functools import partial
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_POST

from vennpair.gateways.http import OutsideError
from vennpair.gateways.keysets import keys_for
from vennpair.service.connect.bulkhead import enter
from vennpair.service.connect.models import Platform, Publisher
from vennpair.service.connect.sessions import sign_in
from vennpair.service.deploy.actions.pick_at_publisher import ask_settings, find_asked, take_picked
from vennpair.service.deploy.actions.pick_content import begin_picking
from vennpair.service.lti.pages import refusal
from vennpair.service.lti.publisher_launch import open_picking, pick_launch
from vennpair.service.pair.actions.open_shell import admit_teacher, open_shell
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.deep_linking import PickRequest, read_response, write_request
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import verify
from vennpair.standards.lti.roles import standing


def arrive_to_pick(request: HttpRequest, platform: Platform, asked: PickRequest) -> HttpResponse:
    """Let an instructor pick: the deploy page, inside the platform's dialogue.

    Raises LtiError for anybody else.
    """
    if standing(asked.launch.roles) not in {"instructor", "designer"}:
        raise LtiError(
            "not_for_learners", "Only the course's instructor may add content from here."
        )
    shell = open_shell(platform, asked.launch, whole=False)
    user = admit_teacher(platform, shell, asked.launch)
    sign_in(request, user, platform, language=asked.launch.locale)
    return redirect(f"/pick/{begin_picking(shell, user, asked).pk}")


@require_GET
def begin_at_publisher(request: HttpRequest, picking_id: Any) -> HttpResponse:
    """Lead an instructor to the publisher's own picker; only who began may go."""
    try:
        picking, pairing = find_asked(picking_id)
        if request.user.pk != picking.user_id:
            raise LtiError("wrong_person", "This picking was begun by somebody else.")
        return open_picking(request, pairing.course.publisher, str(picking.pk))
    except LtiError as error:
        return refusal(request, error)


def pick_claims(publisher: Publisher, hint: dict[str, Any]) -> dict[str, Any]:
    """Return the claims of our deep linking request to a publisher.

    Raises LtiError where it is gone by now.
    """
    picking, pairing = find_asked(hint["picking"])
    course = pairing.course
    if course.publisher_id != publisher.pk:
        raise LtiError(
            "bad_hint",
            "The publisher's answer does not belong to this launch.",
            "LTI Core 1.3, 4.1.1",
        )
    launch = pick_launch(
        publisher, hint, pairing.shell, str(pairing.pk), {"course": course.sourced_id}
    )
    return write_request(PickRequest(launch, ask_settings(picking)))


@csrf_exempt
@require_POST
def picked(request: HttpRequest) -> HttpResponse:
    """Take the publisher's signed answer.

    What was picked becomes items, chosen on the deploy page.
    """
    token = request.POST.get("JWT", "")
    try:
        picking, pairing = find_asked(request.GET.get("picking", ""))
        publisher = pairing.course.publisher
        claims = verify(
            token,
            keys_for(
                token, publisher.jwks_url, publisher.name, partial(enter, publisher.institution_id)
            ),
            issuer=publisher.client_id,
            audience=settings.BASE_URL,
            now=int(time.time()),
        )
        if claims.get(v.DEPLOYMENT_ID) != publisher.deployment_id:
            raise LtiError(
                "bad_deployment",
                "The publisher's answer names another deployment.",
                "Deep Linking 2.0, 4.5.3",
            )
        items, data = read_response(claims)
        chosen = take_picked(picking, pairing, items, data)
    except LtiError as error:
        return refusal(request, error)
    except OutsideError as error:
        return refusal(request, LtiError("keys", error.failure.message), 502)
    return redirect(f"/pairings/{pairing.pk}/deploy?chosen={','.join(chosen)}")
