"""Venn Pair as a tool: a platform's login request, then its signed message."""

from __future__ import annotations

import secrets
import time
from datetime import timedelta
from functools import partial
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils import timezone
from django.utils.crypto import constant_time_compare
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET

from vennpair.gateways.http import OutsideError
from vennpair.gateways.keysets import keys_for
from vennpair.service.connect.actions.invite import digest
from vennpair.service.connect.actions.note_launch import note_launch
from vennpair.service.connect.bulkhead import enter
from vennpair.service.connect.models import Platform
from vennpair.service.lti import pages
from vennpair.service.lti.launch_routing import arrive
from vennpair.service.lti.models import LaunchState, Ticket
from vennpair.service.lti.picking import arrive_to_pick
from vennpair.service.lti.reviewing import arrive_to_review
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.deep_linking import read_request
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import verify
from vennpair.standards.lti.launch import Launch, read_launch
from vennpair.standards.lti.oidc import (
    AuthenticationRequest,
    LoginRequest,
    authentication_url,
    read_login,
)
from vennpair.standards.lti.review import read_review

LOGIN_LIFE = timedelta(minutes=10)
TICKET_LIFE = timedelta(minutes=5)


@csrf_exempt
def login(request: HttpRequest) -> HttpResponse:
    """Begin a launch (Security Framework 5.1.1.1): remember a state, send the browser back for the
    message.
    """
    try:
        params = request.POST if request.method == "POST" else request.GET
        if any(len(params.getlist(name)) > 1 for name in params):
            raise LtiError(
                "bad_login", "A parameter of the launch is there twice.", "Security Framework 5.1.1"
            )
        asked = read_login(params.dict())
        platform = _platform(asked)
        if not asked.target_link_uri.startswith(f"{settings.BASE_URL}/"):
            raise LtiError(
                "bad_login",
                "The launch aims at an address that is not Venn Pair's.",
                "LTI Core 1.3, 4.3",
            )
    except LtiError as error:
        return pages.refusal(request, error)
    begun = LaunchState.objects.create(
        platform=platform, storage_target=params.get("lti_storage_target", "")[:200]
    )
    answer = AuthenticationRequest(
        platform.client_id,
        f"{settings.BASE_URL}/lti/launch",
        asked.login_hint,
        begun.state,
        begun.nonce,
        asked.lti_message_hint,
    )
    onward = authentication_url(platform.authorization_url, answer)
    response = (
        pages.keep_proof(request, _storage(begun, begun.proof), onward)
        if begun.storage_target
        else redirect(onward)
    )
    response.set_cookie(
        _cookie(begun.state),
        "1",
        max_age=LOGIN_LIFE,
        secure=settings.SECURE,
        httponly=True,
        samesite="None" if settings.SECURE else "Lax",
    )
    return response


@csrf_exempt
def launch(request: HttpRequest) -> HttpResponse:
    """Take the signed message: staff go to the console or on to the publisher, learners on to the
    publisher.
    """
    try:
        begun = _begun(request)
        blocked = _cookie(begun.state) not in request.COOKIES
        if blocked and begun.storage_target and not request.POST.get("proof"):
            fields = {name: request.POST.get(name, "") for name in ("state", "id_token")}
            return pages.ask_proof(request, _storage(begun), fields)
        if blocked and not (
            _from_ourselves(request)
            and constant_time_compare(request.POST.get("proof", ""), begun.proof)
        ):
            raise LtiError(
                "bad_state",
                "This launch was not begun in this browser.",
                "Security Framework 5.1.1.3",
            )
        claims = _verified(request.POST.get("id_token", ""), begun)
        if blocked:
            return _onward(request, begun.platform, claims)
        return _arrive(request, begun.platform, claims)
    except LtiError as error:
        return pages.refusal(request, error)
    except OutsideError as error:
        return pages.refusal(request, LtiError("keys", error.failure.message), 502)


@require_GET
def go_on(request: HttpRequest, secret: str) -> HttpResponse:
    """Go on with a launch in a new window; the ticket is good once."""
    ticket = (
        Ticket.objects.filter(digest=digest(secret), made__gt=timezone.now() - TICKET_LIFE)
        .select_related("platform__institution")
        .first()
    )
    try:
        if (
            ticket is None
            or not _from_ourselves(request)
            or not Ticket.objects.filter(pk=ticket.pk).delete()[0]
        ):
            raise LtiError("bad_ticket", "This way into Venn Pair was used already, or is too old.")
        return _arrive(request, ticket.platform, ticket.claims)
    except LtiError as error:
        return pages.refusal(request, error)


def _message(claims: dict[str, Any]) -> Launch:
    if claims.get(v.MESSAGE_TYPE) == v.DEEP_LINKING_REQUEST:
        return read_request(claims).launch
    if claims.get(v.MESSAGE_TYPE) == v.SUBMISSION_REVIEW_REQUEST:
        return read_review(claims).launch
    return read_launch(claims)


def _arrive(request: HttpRequest, platform: Platform, claims: dict[str, Any]) -> HttpResponse:
    """Go where a message leads: a link opens something, a deep linking request lets
    somebody pick.
    """
    if claims.get(v.MESSAGE_TYPE) == v.DEEP_LINKING_REQUEST:
        return arrive_to_pick(request, platform, read_request(claims))
    if claims.get(v.MESSAGE_TYPE) == v.SUBMISSION_REVIEW_REQUEST:
        return arrive_to_review(request, platform, read_review(claims))
    return arrive(request, platform, read_launch(claims))


def _platform(asked: LoginRequest) -> Platform:
    """Return the registration that a login request means.

    Raises LtiError ``unknown_platform``, ``platform_off``.
    """
    found = list(
        Platform.objects.filter(
            issuer=asked.iss, **({"client_id": asked.client_id} if asked.client_id else {})
        )[:10]
    )
    if (
        len(found) > 1
    ):  # one issuer may serve several colleges; without a client id the deployment tells which
        found = [each for each in found if asked.lti_deployment_id in each.deployment_ids]
    if len(found) != 1:
        raise LtiError(
            "unknown_platform",
            "This course platform is not registered with Venn Pair.",
            "Security Framework 5.1.1",
        )
    if not found[0].active:
        raise LtiError(
            "platform_off", "This course platform is out of use in Venn Pair at the moment."
        )
    return found[0]


def _begun(request: HttpRequest) -> LaunchState:
    if request.POST.get("error"):
        words = request.POST.get("error_description") or request.POST["error"]
        raise LtiError(
            "platform_refused",
            f"The course platform refused the launch: {words[:300]}",
            "OpenID Connect Core 3.1.2.6",
        )
    begun = (
        LaunchState.objects.filter(
            state=request.POST.get("state", ""), made__gt=timezone.now() - LOGIN_LIFE
        )
        .select_related("platform__institution")
        .first()
    )
    if begun is None or (_cookie(begun.state) not in request.COOKIES and not begun.storage_target):
        raise LtiError(
            "bad_state",
            "This launch was not begun in this browser, was used already, or is too old.",
            "Security Framework 5.1.1.3",
        )
    return begun


def _verified(token: str, begun: LaunchState) -> dict[str, Any]:
    """Check everything the framework asks for.

    A state is taken out of the table before it is trusted.
    """
    if not LaunchState.objects.filter(pk=begun.pk).delete()[0]:
        raise LtiError("bad_state", "This launch was used already.", "Security Framework 5.1.1.3")
    platform = begun.platform
    claims = verify(
        token,
        keys_for(token, platform.jwks_url, platform.name, partial(enter, platform.institution_id)),
        issuer=platform.issuer,
        audience=platform.client_id,
        now=int(time.time()),
    )
    if claims.get("nonce") != begun.nonce:
        raise LtiError(
            "bad_nonce", "The message answers another launch.", "Security Framework 5.1.3"
        )
    note_launch(platform, _message(claims).deployment_id)
    return claims


def _onward(request: HttpRequest, platform: Platform, claims: dict[str, Any]) -> HttpResponse:
    secret = secrets.token_urlsafe(32)
    Ticket.objects.create(digest=digest(secret), platform=platform, claims=claims)
    return pages.new_window(request, f"/lti/continue/{secret}")


def _storage(begun: LaunchState, value: str = "") -> dict[str, str]:
    """Return how to speak to the platform's frame.

    Only its authorisation address's origin may listen or answer.
    """
    at = urlsplit(begun.platform.authorization_url)
    return {
        "target": begun.storage_target,
        "origin": f"{at.scheme}://{at.netloc}",
        "key": f"vennpair_{begun.state[:12]}",
        "value": value,
        "message": begun.state[12:28],
    }


def _from_ourselves(request: HttpRequest) -> bool:
    """Say whether a page of ours led here: what proves a launch without cookies must not be brought
    by another site.
    """
    site = request.headers.get("Sec-Fetch-Site")
    if site:
        return site == "same-origin"
    came_from = request.headers.get("Origin") or request.headers.get("Referer", "")
    return came_from == settings.BASE_URL or came_from.startswith(f"{settings.BASE_URL}/")


def _cookie(state: str) -> str:
    return f"vennpair_launch_{state[:12]}"
