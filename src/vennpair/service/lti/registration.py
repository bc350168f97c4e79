"""The registration endpoints of both roles (LTI Dynamic Registration 1.0)."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_http_methods

from vennpair.gateways.http import OutsideError
from vennpair.service.connect.actions.register_dynamically import (
    register_at_platform,
    register_by_invitation,
    take_registration,
)
from vennpair.service.connect.models import Platform
from vennpair.service.connect.registration_values import our_configuration
from vennpair.service.kernel.errors import Refused
from vennpair.service.lti.pages import confirm_registration, refusal, registered
from vennpair.standards.json_text import read_json
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.registration import (
    Registration,
    message_of,
    write_configuration,
    write_message,
    write_registration,
)

LARGEST_BODY = 100_000
LONGEST_VALUE = 6_000  # a web server takes no longer request line than some 8,000 characters


@require_GET
def configuration(request: HttpRequest) -> JsonResponse:
    """Publish our configuration as a platform (Dynamic Registration 1.0, 3.4)."""
    return JsonResponse(write_configuration(our_configuration()))


@csrf_exempt
@require_http_methods(["POST"])
def register_tool(request: HttpRequest) -> JsonResponse:
    """Take a publisher's registration, once for each token (Dynamic Registration 1.0, 3.5
    and 3.6).
    """
    kind, _, secret = request.headers.get("Authorization", "").partition(" ")
    if kind.lower() != "bearer" or not secret:
        return _error(
            401, "invalid_token", "A registration needs the token of its link, as a bearer token."
        )
    if len(request.body) > LARGEST_BODY:
        return _error(413, "invalid_client_metadata", "The registration is too large.")
    try:
        publisher, asked = take_registration(secret.strip(), read_json(request.body))
    except ValueError:
        return _error(400, "invalid_client_metadata", "The body is not JSON.")
    except LtiError as error:
        return _error(401 if error.code == "invalid_token" else 400, error.code, error.message)
    ours = our_configuration()
    offered = set(ours.scopes)
    taken = [message_of(asked, kind) for kind in ours.messages]
    answer = Registration(
        asked.client_name,
        asked.login_url,
        asked.redirect_uris,
        asked.jwks_url,
        asked.target_link_uri,
        tuple(scope for scope in asked.scopes if scope in offered),
        asked.custom,
        tuple(write_message(each) for each in taken if each),
        asked.description,
        asked.contacts,
        asked.oneroster,
        asked.provisioning,
        publisher.client_id,
        publisher.deployment_id,
        asked.claims,
    )
    return JsonResponse(
        write_registration(answer), status=201, headers={"Cache-Control": "no-store"}
    )


@csrf_exempt
@require_http_methods(["GET", "POST"])
def invited(request: HttpRequest, secret: str) -> HttpResponse:
    """Register us at the platform whose administrator opened our one-time link there (3.3).

    The link itself is the right to do so, hence no confirmation: platforms open it in a frame.
    """
    return _register(
        request, lambda configuration, token: register_by_invitation(secret, configuration, token)
    )


@require_http_methods(["GET", "POST"])
def begin(request: HttpRequest) -> HttpResponse:
    """Register us where a signed-in administrator came without a link: ask first, as anybody can
    lead a browser here.
    """
    user: Any = request.user
    if not user.is_authenticated or not user.is_staff or user.institution is None:
        error = LtiError(
            "not_administrator",
            "Only an administrator who is signed in to Venn Pair in this browser can register a"
            " platform here.",
            "Dynamic Registration 1.0, 3.3",
        )
        return refusal(request, error, 403)
    if request.method == "GET":
        try:
            asked, token = _asked(request.GET)
        except LtiError as error:
            return refusal(request, error)
        return confirm_registration(request, asked, token)
    return _register(
        request,
        lambda configuration, token: register_at_platform(
            user.institution, configuration, token, "", user
        ),
    )


def _register(request: HttpRequest, act: Any) -> HttpResponse:
    try:
        asked, token = _asked(
            request.POST if request.method == "POST" and request.POST else request.GET
        )
        platform: Platform = act(asked, token)
    except LtiError as error:
        return refusal(request, error)
    except OutsideError as error:
        return refusal(
            request,
            LtiError("registration_failed", f"{error.failure.message} {error.failure.remedy}"),
            502,
        )
    except Refused as error:
        return refusal(
            request, LtiError(error.code, f"{error.message} {error.remedy}"), error.status
        )
    return registered(request, platform.name, settings.BASE_URL)


def _asked(params: Any) -> tuple[str, str]:
    for name in ("openid_configuration", "registration_token"):
        if len(params.getlist(name)) > 1:
            raise LtiError(
                "bad_registration",
                f"The parameter {name} is there twice.",
                "Dynamic Registration 1.0, 3.3",
            )
        if len(params.get(name, "")) > LONGEST_VALUE:
            raise LtiError(
                "bad_registration",
                f"The parameter {name} is longer than {LONGEST_VALUE} characters.",
                "Dynamic Registration 1.0, 3.3",
            )
    if not params.get("openid_configuration"):
        raise LtiError(
            "bad_registration",
            "The parameter openid_configuration is missing: this address is opened by a platform"
            " that registers tools.",
            "Dynamic Registration 1.0, 3.3",
        )
    return params["openid_configuration"], params.get("registration_token", "")


def _error(status: int, code: str, words: str) -> JsonResponse:
    response = JsonResponse({"error": code, "error_description": words}, status=status)
    if status == 401:
        response["WWW-Authenticate"] = f'Bearer error="{code}"'
    return response
