"""Venn Pair as a platform: the second hop of a launch, and the publisher's access token."""

from __future__ import annotations

import time
from datetime import timedelta
from functools import partial
from typing import Any

from django.conf import settings
from django.core import signing
from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect
from django.utils import timezone
from django.utils.crypto import constant_time_compare
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_POST

from vennpair.gateways.http import OutsideError
from vennpair.gateways.keysets import keys_for
from vennpair.service.connect.bulkhead import enter
from vennpair.service.connect.keys import published_keys, signing_key
from vennpair.service.connect.models import Publisher
from vennpair.service.connect.registration_values import OFFERED
from vennpair.service.deploy.launch_hints import read_hint
from vennpair.service.lti.models import ServiceToken, UsedAssertion, new_secret
from vennpair.service.lti.pages import refusal, send_form
from vennpair.service.lti.picking import pick_claims
from vennpair.service.lti.publisher_launch import (
    HOPS,
    digest,
    open_account,
    review_claims,
    second_launch,
)
from vennpair.service.pair.actions.link_account import take_account
from vennpair.service.pair.models import AccountLink
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import sign, verify
from vennpair.standards.lti.keys import public_jwks
from vennpair.standards.lti.launch import write_launch
from vennpair.standards.lti.oidc import read_authentication
from vennpair.standards.lti.tokens import asserted_client, verify_assertion
from vennpair.standards.provisioning import ACCOUNT_CLAIM, read_account

TOKEN_LIFE = timedelta(hours=1)


@require_GET
def jwks(request: HttpRequest) -> JsonResponse:
    """Publish our keys, for both roles."""
    return JsonResponse(public_jwks(published_keys()))


@csrf_exempt
def authorize(request: HttpRequest) -> HttpResponse:
    """Answer the publisher's authentication request with the signed message (Security Framework
    5.1.1.2).
    """
    try:
        params = request.POST if request.method == "POST" else request.GET
        if any(len(params.getlist(name)) > 1 for name in params):
            raise LtiError(
                "bad_request", "A parameter of the request is there twice.", "RFC 6749, 3.1"
            )
        asked = read_authentication(params.dict())
        publisher = Publisher.objects.filter(client_id=asked.client_id, active=True).first()
        if publisher is None:
            raise LtiError(
                "unknown_client",
                "This publisher is not registered with Venn Pair, or was taken out of use.",
                "RFC 6749, 4.1.2.1",
            )
        if asked.redirect_uri not in publisher.redirect_uris:
            raise LtiError(
                "bad_redirect",
                "The publisher asks to be answered at an address that is not registered.",
                "RFC 6749, 3.1.2.3",
            )
        hint = _hint(request, asked.lti_message_hint)
        if hint["publisher"] != str(publisher.pk) or hint["who"]["sub"] != asked.login_hint:
            raise LtiError(
                "bad_hint",
                "The publisher's answer does not belong to this launch.",
                "LTI Core 1.3, 4.1.1",
            )
        message = _message(publisher, hint)
    except LtiError as error:
        return refusal(request, error)
    now = int(time.time())
    claims = message | {
        "iss": settings.BASE_URL,
        "aud": publisher.client_id,
        "iat": now,
        "exp": now + 300,
        "nonce": asked.nonce,
    }
    return send_form(
        request, asked.redirect_uri, {"id_token": sign(claims, signing_key()), "state": asked.state}
    )


def _message(publisher: Publisher, hint: dict[str, Any]) -> dict[str, Any]:
    """Return the claims of the message that a hint stands for. Raises LtiError."""
    if hint.get("picking"):
        return pick_claims(publisher, hint)
    if hint.get("review"):
        return review_claims(publisher, hint)
    return write_launch(second_launch(publisher, hint))


@csrf_exempt
@require_POST
def token(request: HttpRequest) -> JsonResponse:
    """Give a publisher an access token for a signed assertion (Security Framework 4.1)."""
    form = request.POST.dict()
    try:
        known = Publisher.objects.filter(client_id=asserted_client(form), active=True)
        publisher = known.first()
        if publisher is None:
            raise LtiError(
                "invalid_client", "This client is not registered, or was taken out of use."
            )
        keys = keys_for(
            form["client_assertion"],
            publisher.jwks_url,
            publisher.name,
            partial(enter, publisher.institution_id),
        )
        assertion, scopes = verify_assertion(
            form,
            keys,
            client_id=publisher.client_id,
            token_url=f"{settings.BASE_URL}/lti/platform/token",
            now=int(time.time()),
        )
        with transaction.atomic():
            UsedAssertion.objects.create(publisher=publisher, value=assertion[:255])
    except IntegrityError:
        return _token_error("invalid_client", "This assertion was used before.")
    except OutsideError as error:
        return _token_error("invalid_client", error.failure.message)
    except LtiError as error:
        return _token_error(
            error.code if error.code != "bad_token" else "invalid_client", error.message
        )
    granted = [scope for scope in scopes if scope in OFFERED]
    if not granted:
        return _token_error("invalid_scope", "None of these scopes is offered.")
    value = new_secret()
    ServiceToken.objects.create(
        digest=digest(value),
        publisher=publisher,
        scopes=granted,
        expires=timezone.now() + TOKEN_LIFE,
    )
    return JsonResponse(
        {
            "access_token": value,
            "token_type": "Bearer",
            "expires_in": int(TOKEN_LIFE.total_seconds()),
            "scope": " ".join(granted),
        },
        headers={"Cache-Control": "no-store"},
    )


@require_GET
def begin_account(request: HttpRequest, link_id: Any) -> HttpResponse:
    """Lead an instructor to the publisher to show there which account is theirs.

    Only who began may go.
    """
    link = (
        AccountLink.objects.select_related("user__institution", "publisher")
        .filter(pk=link_id)
        .first()
    )
    try:
        if link is None or request.user.pk != link.user_id:
            raise LtiError(
                "wrong_person", "This account link was begun by somebody else, or was undone."
            )
        return open_account(request, link)
    except LtiError as error:
        return refusal(request, error)


@csrf_exempt
@require_POST
def account(request: HttpRequest) -> HttpResponse:
    """Take the publisher's signed word on whose account it is (docs/course-provisioning.md,
    Accounts).
    """
    token = request.POST.get("JWT", "")
    try:
        link = (
            AccountLink.objects.select_related("user__institution", "publisher")
            .filter(nonce=request.POST.get("nonce") or "-")
            .first()
        )
        if link is None:
            raise LtiError("bad_state", "This account link was finished already, or undone.")
        if request.user.pk != link.user_id:
            raise LtiError(
                "wrong_person",
                "This account link was begun by somebody else than who is signed in to Venn Pair in"
                " this browser.",
            )
        publisher = link.publisher
        claims = verify(
            token,
            keys_for(
                token, publisher.jwks_url, publisher.name, partial(enter, publisher.institution_id)
            ),
            issuer=publisher.client_id,
            audience=settings.BASE_URL,
            now=int(time.time()),
        )
        if not constant_time_compare(str(claims.get("nonce") or ""), link.nonce):
            raise LtiError("bad_nonce", "The publisher's answer belongs to another account link.")
        take_account(link, read_account(claims.get(ACCOUNT_CLAIM)))
    except ValueError as error:
        return refusal(
            request, LtiError("bad_message", f"The publisher's answer names no account: {error}.")
        )
    except LtiError as error:
        return refusal(request, error)
    except OutsideError as error:
        return refusal(request, LtiError("keys", error.failure.message), 502)
    return redirect("/accounts")


def _hint(request: HttpRequest, hint: str) -> dict[str, Any]:
    begun = request.session.get(HOPS, [])
    if digest(hint) not in begun:
        raise LtiError(
            "bad_state",
            "This launch was not begun in this browser, or was used already.",
            "Security Framework 5.1.1",
        )
    request.session[HOPS] = [each for each in begun if each != digest(hint)]
    try:
        return read_hint(hint)
    except signing.BadSignature:
        raise LtiError("expired", "The launch took too long.", "Security Framework 5.1.1") from None


def _token_error(code: str, words: str) -> JsonResponse:
    return JsonResponse({"error": code, "error_description": words}, status=400)
