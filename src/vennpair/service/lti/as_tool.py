"""Venn Pair as a tool: a platform's login request, then its signed message."""

from __future__ import annotations

import time
from datetime import timedelta

from django.conf import settings
from django.contrib.auth import login as sign_in
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt

from vennpair.gateways.http import OutsideError
from vennpair.gateways.keysets import keys_for
from vennpair.service.connect.models import Platform
from vennpair.service.deploy.models import Placement
from vennpair.service.lti.as_platform import open_at_publisher
from vennpair.service.lti.models import LaunchState
from vennpair.service.lti.pages import refusal
from vennpair.service.pair.actions.open_shell import admit_learner, admit_teacher, open_shell
from vennpair.service.pair.models import Pairing, Shell
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import verify
from vennpair.standards.lti.launch import Launch, read_launch
from vennpair.standards.lti.oidc import AuthenticationRequest, authentication_url, read_login

LOGIN_LIFE = timedelta(minutes=10)


@csrf_exempt
def login(request: HttpRequest) -> HttpResponse:
    """Begin a launch (Security Framework 5.1.1.1): remember a state, send the browser back for the message."""
    try:
        params = request.POST if request.method == "POST" else request.GET
        if any(len(params.getlist(name)) > 1 for name in params):
            raise LtiError("bad_login", "A parameter of the launch is there twice.", "Security Framework 5.1.1")
        asked = read_login(params.dict())
        platforms = Platform.objects.filter(issuer=asked.iss)
        platform = (platforms.filter(client_id=asked.client_id) if asked.client_id else platforms).first()
        if platform is None:
            raise LtiError("unknown_platform", "This course platform is not registered with Venn Pair.", "Security Framework 5.1.1")
        if not asked.target_link_uri.startswith(f"{settings.BASE_URL}/"):
            raise LtiError("bad_login", "The launch aims at an address that is not Venn Pair's.", "LTI Core 1.3, 4.3")
    except LtiError as error:
        return refusal(request, error)
    begun = LaunchState.objects.create(platform=platform)
    answer = AuthenticationRequest(platform.client_id, f"{settings.BASE_URL}/lti/launch", asked.login_hint, begun.state, begun.nonce, asked.lti_message_hint)
    response = redirect(authentication_url(platform.authorization_url, answer))
    response.set_cookie(_cookie(begun.state), "1", max_age=LOGIN_LIFE, secure=settings.SECURE, httponly=True, samesite="None" if settings.SECURE else "Lax")
    return response


@csrf_exempt
def launch(request: HttpRequest) -> HttpResponse:
    """Take the signed message: staff go to the console or on to the publisher, learners on to the publisher."""
    try:
        message, platform = _verified(request)
        shell = open_shell(platform, message)
        return _open(request, platform, shell, message)
    except LtiError as error:
        return refusal(request, error)
    except OutsideError as error:
        return refusal(request, LtiError("keys", error.failure.message), 502)


def _verified(request: HttpRequest) -> tuple[Launch, Platform]:
    """Check everything the framework asks for; a state is taken out of the table before it is trusted."""
    if request.POST.get("error"):
        words = request.POST.get("error_description") or request.POST["error"]
        raise LtiError("platform_refused", f"The course platform refused the launch: {words[:300]}", "OpenID Connect Core 3.1.2.6")
    state = request.POST.get("state", "")
    begun = LaunchState.objects.filter(state=state, made__gt=timezone.now() - LOGIN_LIFE).select_related("platform__institution").first()
    if begun is None or _cookie(state) not in request.COOKIES:
        raise LtiError("bad_state", "This launch was not begun in this browser, was used already, or is too old.", "Security Framework 5.1.1.3")
    if not LaunchState.objects.filter(pk=begun.pk).delete()[0]:
        raise LtiError("bad_state", "This launch was used already.", "Security Framework 5.1.1.3")
    platform, token = begun.platform, request.POST.get("id_token", "")
    keys = keys_for(token, platform.jwks_url, platform.name)
    claims = verify(token, keys, issuer=platform.issuer, audience=platform.client_id, now=int(time.time()))
    if claims.get("nonce") != begun.nonce:
        raise LtiError("bad_nonce", "The message answers another launch.", "Security Framework 5.1.3")
    message = read_launch(claims)
    if message.deployment_id not in platform.deployment_ids:
        raise LtiError("bad_deployment", "The message comes from a deployment that is not registered.", "LTI Core 1.3, 3.1.3")
    return message, platform


def _open(request: HttpRequest, platform: Platform, shell: Shell, message: Launch) -> HttpResponse:
    teaches = v.is_instructor(list(message.roles)) or v.ASSISTANT in message.roles
    learner = None if teaches else admit_learner(shell, message)
    if teaches:
        sign_in(request, admit_teacher(platform, shell, message), backend="django.contrib.auth.backends.ModelBackend")
    placement = _placement(shell, message)
    if placement is not None:
        return open_at_publisher(request, placement, learner, message)
    if learner is not None:
        code, words = ("not_placed", "This link is not connected to homework (any more).") if message.custom.get("placement") else ("not_for_learners", "This page is for instructors.")
        raise LtiError(code, words)
    pairing = Pairing.objects.filter(shell=shell).exclude(state=Pairing.State.ENDED).first()
    return redirect(f"/pairings/{pairing.pk}" if pairing else f"/?shell={shell.pk}")


def _placement(shell: Shell, message: Launch) -> Placement | None:
    placed = Placement.objects.filter(pairing__shell=shell, resource_link_id=message.resource_link_id).exclude(pairing__state=Pairing.State.ENDED)
    return placed.select_related("pairing__course__publisher", "pairing__shell", "item").first()


def _cookie(state: str) -> str:
    return f"vennpair_launch_{state[:12]}"
