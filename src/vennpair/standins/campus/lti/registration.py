"""Registering a tool dynamically at the campus (LTI Dynamic Registration 1.0)."""

from __future__ import annotations

import json

from django.conf import settings
from django.db import transaction
from django.http import HttpRequest, JsonResponse
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_POST

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.registration import (
    Configuration,
    Registration,
    read_registration,
    write_configuration,
    write_registration,
)
from vennpair.standins.campus.lti.access import OFFERED
from vennpair.standins.campus.models import RegistrationToken, Tool


@require_GET
def configuration(request: HttpRequest) -> JsonResponse:
    """Publish the campus's configuration."""
    base = settings.BASE_URL
    variables = (
        "Context.id",
        "Context.timeZone",
        "Context.id.history",
        "ResourceLink.id",
        "ResourceLink.id.history",
    )
    ours = Configuration(
        base,
        f"{base}/lti/authorize",
        f"{base}/lti/token",
        f"{base}/lti/jwks",
        f"{base}/lti/register",
        tuple(sorted(OFFERED)),
        "tarnfield-campus",
        "1",
        messages=(v.RESOURCE_LINK_REQUEST, v.DEEP_LINKING_REQUEST),
        variables=variables,
    )
    return JsonResponse(write_configuration(ours))


@csrf_exempt
@require_POST
def register(request: HttpRequest) -> JsonResponse:
    """Take a registration, once for each token."""
    kind, _, value = request.headers.get("Authorization", "").partition(" ")
    with transaction.atomic():
        token = (
            RegistrationToken.objects.select_for_update().filter(value=value, used=None).first()
            if kind == "Bearer"
            else None
        )
        if token is None:
            return JsonResponse(
                {
                    "error": "invalid_token",
                    "error_description": "The registration token is unknown or was used already.",
                },
                status=401,
            )
        try:
            asked = read_registration(json.loads(request.body))
        except ValueError:
            return JsonResponse(
                {"error": "invalid_client_metadata", "error_description": "The body is not JSON."},
                status=400,
            )
        except LtiError as error:
            return JsonResponse(
                {"error": error.code, "error_description": error.message}, status=400
            )
        scopes = [scope for scope in asked.scopes if scope in OFFERED]
        fields = {
            "login_url": asked.login_url,
            "launch_url": asked.target_link_uri,
            "redirect_uris": list(asked.redirect_uris),
            "jwks_url": asked.jwks_url,
            "custom": asked.custom,
            "scopes": scopes,
        }
        tool = Tool.objects.create(name=asked.client_name, **fields)
        token.used = timezone.now()
        token.save()
    answer = Registration(
        asked.client_name,
        asked.login_url,
        asked.redirect_uris,
        asked.jwks_url,
        asked.target_link_uri,
        tuple(scopes),
        asked.custom,
        asked.messages,
        client_id=tool.client_id,
        deployment_id=tool.deployment_id,
    )
    return JsonResponse(write_registration(answer), status=201)
