"""Being launched: login, then the signed message, then the item's page."""

from __future__ import annotations

import time
from datetime import timedelta

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt

from vennpair.standards.lti.deep_linking import PickSettings, read_request
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import unverified, verify
from vennpair.standards.lti.keys import public_jwks
from vennpair.standards.lti.launch import Launch, read_launch
from vennpair.standards.lti.oidc import AuthenticationRequest, authentication_url, read_login
from vennpair.standards.lti.roles import standing
from vennpair.standards.lti.vocabulary import DEEP_LINKING_REQUEST, MESSAGE_TYPE, TEST_USER
from vennpair.standins.fetch import fetch_keys
from vennpair.standins.keys import signing_key
from vennpair.standins.press.lti.linking import begin_link
from vennpair.standins.press.lti.picking import show_picker
from vennpair.standins.press.models import (
    Account,
    Course,
    Destination,
    Enrolment,
    Identity,
    Item,
    LaunchState,
    Platform,
    SigningKey,
)

LOGIN_LIFE = timedelta(minutes=10)


def jwks(request: HttpRequest) -> JsonResponse:
    """Publish the tool's keys."""
    return JsonResponse(public_jwks([signing_key(SigningKey)]))


@csrf_exempt
def login(request: HttpRequest) -> HttpResponse:
    """Begin a launch (Security Framework 5.1.1.1)."""
    try:
        asked = read_login(request.POST.dict() if request.method == "POST" else request.GET.dict())
        platforms = Platform.objects.filter(issuer=asked.iss)
        platform = (
            platforms.filter(client_id=asked.client_id) if asked.client_id else platforms
        ).first()
        if platform is None:
            raise LtiError("unknown_platform", "This platform is not registered at the press.")
    except LtiError as error:
        return _refuse(request, error)
    begun = LaunchState.objects.create(platform=platform)
    request.session["launch_state"] = begun.state
    answer = AuthenticationRequest(
        platform.client_id,
        f"{settings.BASE_URL}/lti/launch",
        asked.login_hint,
        begun.state,
        begun.nonce,
        asked.lti_message_hint,
    )
    return redirect(authentication_url(platform.authorization_url, answer))


@csrf_exempt
def launch(request: HttpRequest) -> HttpResponse:
    """Take the signed message and open what it names."""
    try:
        message, platform, asked = _verified(request)
        if message.custom.get("vennpair_account_return"):
            return begin_link(request, platform, message)
        item = (
            Item.objects.filter(sourced_id=message.custom.get("item", ""))
            .select_related("unit__course")
            .first()
        )
        course = (
            item.unit.course
            if item
            else Course.objects.filter(sourced_id=message.custom.get("course", "")).first()
        )
        if course is None:
            raise LtiError(
                "unknown_item", "The link names an item or course that the press does not have."
            )
    except LtiError as error:
        return _refuse(request, error)
    account = _account(message, platform, course)
    request.session["account"] = account.pk
    if asked is not None:
        return show_picker(request, platform, course, asked)
    if item and message.grades and message.grades.lineitem and standing(message.roles) == "learner":
        fields = {
            "platform": platform,
            "sub": message.person.sub,
            "line_item": message.grades.lineitem,
        }
        Destination.objects.update_or_create(item=item, account=account, defaults=fields)
    page = "registered" if message.custom.get("show") == "registration" else ""
    return redirect(
        f"/items/{item.sourced_id}"
        if item
        else f"/courses/{course.sourced_id}" + (f"?{page}" if page else "")
    )


def _verified(request: HttpRequest) -> tuple[Launch, Platform, PickSettings | None]:
    """Check state, signature, parties, nonce and deployment; each state is good once.

    With settings, it asks for content.
    """
    state = request.POST.get("state", "")
    begun = (
        LaunchState.objects.filter(state=state, made__gt=timezone.now() - LOGIN_LIFE)
        .select_related("platform")
        .first()
    )
    if begun is None or request.session.get("launch_state") != state:
        raise LtiError(
            "bad_state", "This launch was not begun in this browser, or was used already."
        )
    begun.delete()
    platform, token = begun.platform, request.POST.get("id_token", "")
    unverified(token)
    claims = verify(
        token,
        fetch_keys(platform.jwks_url),
        issuer=platform.issuer,
        audience=platform.client_id,
        now=int(time.time()),
    )
    if claims.get("nonce") != begun.nonce:
        raise LtiError("bad_nonce", "The message answers another launch.")
    picking = read_request(claims) if claims.get(MESSAGE_TYPE) == DEEP_LINKING_REQUEST else None
    message = picking.launch if picking else read_launch(claims)
    if message.deployment_id != platform.deployment_id:
        raise LtiError("bad_deployment", "The message comes from an unknown deployment.")
    return message, platform, picking.settings if picking else None


def _account(message: Launch, platform: Platform, course: Course) -> Account:
    """Return the account of a launch: by subject, else by the course's address, else a new one."""
    person = message.person
    known = (
        Identity.objects.filter(platform=platform, sub=person.sub).select_related("account").first()
    )
    account = known.account if known else Account.objects.filter(email__iexact=person.email).first()
    if account is None:  # a newcomer may open several links at once
        names = {
            "given_name": person.given_name or "Learner",
            "family_name": person.family_name or "unnamed",
        }
        account, _ = Account.objects.get_or_create(
            email=person.email or f"{person.sub}@no-address.invalid", defaults=names
        )
    if known is None:
        account = Identity.objects.get_or_create(
            platform=platform, sub=person.sub, defaults={"account": account}
        )[0].account
    role = (
        "teacher"
        if standing(message.roles) in {"instructor", "assistant", "designer"}
        else "preview"
        if TEST_USER in message.roles
        else "student"
    )
    if role == "teacher" and not account.teaches:
        Account.objects.filter(pk=account.pk).update(teaches=True)
    Enrolment.objects.get_or_create(course=course, account=account, defaults={"role": role})
    return account


def _refuse(request: HttpRequest, error: LtiError) -> HttpResponse:
    return render(request, "press/refused.html", {"error": error}, status=400)
