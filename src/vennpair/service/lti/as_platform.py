"""Venn Pair as a platform: the second hop of a launch, and the publisher's access token."""

from __future__ import annotations

import hashlib
import time
from datetime import timedelta

from django.conf import settings
from django.core import signing
from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_POST

from vennpair.gateways.http import OutsideError
from vennpair.gateways.keysets import keys_for
from vennpair.service.connect.keys import published_keys, signing_key
from vennpair.service.connect.models import Publisher
from vennpair.service.deploy.models import Placement
from vennpair.service.lti.models import ServiceToken, UsedAssertion, new_secret
from vennpair.service.lti.pages import refusal, send_form
from vennpair.service.pair.models import Learner
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import sign
from vennpair.standards.lti.keys import public_jwks
from vennpair.standards.lti.launch import Context, GradeEndpoint, Launch, Person, write_launch
from vennpair.standards.lti.oidc import LoginRequest, login_url, read_authentication
from vennpair.standards.lti.tokens import asserted_client, verify_assertion

SALT = "vennpair.second-hop"
HINT_SECONDS = 600
HOPS, MOST_HOPS = "second_hops", 20  # launches that this browser has begun, in as many tabs
TOKEN_LIFE = timedelta(hours=1)
OFFERED = (v.SCOPE_LINE_ITEM_READ, v.SCOPE_RESULT_READ, v.SCOPE_SCORE)


@require_GET
def jwks(request: HttpRequest) -> JsonResponse:
    """Publish our keys, for both roles."""
    return JsonResponse(public_jwks(published_keys()))


def open_at_publisher(request: HttpRequest, placement: Placement, learner: Learner | None, message: Launch) -> HttpResponse:
    """Begin the second hop: the browser goes to the publisher's login, with a hint of who opens what.

    The hint is signed and the browser's session remembers it, so that only this browser can use it.
    """
    publisher = placement.pairing.course.publisher
    if not publisher.login_url:
        raise LtiError("publisher_off", f"{publisher.name} is not connected at the moment.")
    who = {"sub": str(learner.pk)} if learner else {"sub": f"staff-{request.user.pk}"}
    who |= {"name": message.person.name, "given": message.person.given_name, "family": message.person.family_name, "email": message.person.email}
    hint = signing.dumps({"placement": str(placement.pk), "who": who, "learner": learner is not None, "publisher": str(publisher.pk)}, salt=SALT)
    request.session[HOPS] = [*request.session.get(HOPS, []), digest(hint)][-MOST_HOPS:]
    asked = LoginRequest(settings.BASE_URL, who["sub"], placement.item.url or publisher.launch_url, publisher.client_id, hint, publisher.deployment_id)
    return redirect(login_url(publisher.login_url, asked))


@csrf_exempt
def authorize(request: HttpRequest) -> HttpResponse:
    """Answer the publisher's authentication request with the signed message (Security Framework 5.1.1.2)."""
    try:
        asked = read_authentication((request.POST if request.method == "POST" else request.GET).dict())
        publisher = Publisher.objects.filter(client_id=asked.client_id).first()
        if publisher is None:
            raise LtiError("unknown_client", "This publisher is not registered with Venn Pair.", "RFC 6749, 4.1.2.1")
        if asked.redirect_uri not in publisher.redirect_uris:
            raise LtiError("bad_redirect", "The publisher asks to be answered at an address that is not registered.", "RFC 6749, 3.1.2.3")
        hint = _hint(request, asked.lti_message_hint)
        if hint["publisher"] != str(publisher.pk) or hint["who"]["sub"] != asked.login_hint:
            raise LtiError("bad_hint", "The publisher's answer does not belong to this launch.", "LTI Core 1.3, 4.1.1")
    except LtiError as error:
        return refusal(request, error)
    placement = Placement.objects.select_related("pairing__shell", "item").get(pk=hint["placement"])
    now = int(time.time())
    claims = write_launch(_second_launch(publisher, placement, hint)) | {"iss": settings.BASE_URL, "aud": publisher.client_id, "iat": now, "exp": now + 300, "nonce": asked.nonce}
    return send_form(request, asked.redirect_uri, {"id_token": sign(claims, signing_key()), "state": asked.state})


@csrf_exempt
@require_POST
def token(request: HttpRequest) -> JsonResponse:
    """Give a publisher an access token for a signed assertion (Security Framework 4.1)."""
    form = request.POST.dict()
    try:
        publisher = Publisher.objects.filter(client_id=asserted_client(form)).first()
        if publisher is None:
            raise LtiError("invalid_client", "This client is not registered.")
        keys = keys_for(form["client_assertion"], publisher.jwks_url, publisher.name)
        assertion, scopes = verify_assertion(form, keys, client_id=publisher.client_id, token_url=f"{settings.BASE_URL}/lti/platform/token", now=int(time.time()))
        with transaction.atomic():
            UsedAssertion.objects.create(publisher=publisher, value=assertion[:255])
    except IntegrityError:
        return _token_error("invalid_client", "This assertion was used before.")
    except OutsideError as error:
        return _token_error("invalid_client", error.failure.message)
    except LtiError as error:
        return _token_error(error.code if error.code != "bad_token" else "invalid_client", error.message)
    granted = [scope for scope in scopes if scope in OFFERED]
    if not granted:
        return _token_error("invalid_scope", "None of these scopes is offered.")
    value = new_secret()
    ServiceToken.objects.create(digest=digest(value), publisher=publisher, scopes=granted, expires=timezone.now() + TOKEN_LIFE)
    return JsonResponse({"access_token": value, "token_type": "Bearer", "expires_in": int(TOKEN_LIFE.total_seconds()), "scope": " ".join(granted)})


def digest(value: str) -> str:
    """Return what is kept of a token or hint."""
    return hashlib.sha256(value.encode()).hexdigest()


def _hint(request: HttpRequest, hint: str) -> dict[str, object]:
    begun = request.session.get(HOPS, [])
    if digest(hint) not in begun:
        raise LtiError("bad_state", "This launch was not begun in this browser, or was used already.", "Security Framework 5.1.1")
    request.session[HOPS] = [each for each in begun if each != digest(hint)]
    try:
        return signing.loads(hint, salt=SALT, max_age=HINT_SECONDS)  # type: ignore[no-any-return]
    except signing.BadSignature:
        raise LtiError("expired", "The launch took too long.", "Security Framework 5.1.1") from None


def _second_launch(publisher: Publisher, placement: Placement, hint: dict[str, object]) -> Launch:
    who: dict[str, str] = hint["who"]  # type: ignore[assignment]
    shell, base = placement.pairing.shell, f"{settings.BASE_URL}/lti/platform/pairings/{placement.pairing_id}/lineitems"
    grades = GradeEndpoint(OFFERED, base, f"{base}/{placement.pk}") if placement.column_url else None
    return Launch(
        person=Person(who["sub"], who["name"], who["given"], who["family"], who["email"]),
        deployment_id=publisher.deployment_id,
        target_link_uri=placement.item.url or publisher.launch_url,
        resource_link_id=str(placement.pk),
        resource_link_title=placement.title,
        roles=(v.LEARNER if hint["learner"] else v.INSTRUCTOR,),
        context=Context(str(placement.pairing_id), shell.title, shell.label),
        custom=dict(placement.item.custom),
        grades=grades,
        return_url=shell.return_url,
        timezone=shell.zone,
    )


def _token_error(code: str, words: str) -> JsonResponse:
    return JsonResponse({"error": code, "error_description": words}, status=400)
