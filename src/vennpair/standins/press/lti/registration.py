"""Registering at a platform that opens our registration address (LTI Dynamic Registration 1.0, as a
tool).
"""

from __future__ import annotations

import httpx
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.registration import (
    Registration,
    read_configuration,
    read_registration,
    write_registration,
)
from vennpair.standins.fetch import trusted
from vennpair.standins.press.models import ApiClient, Platform

WANTED = (v.SCOPE_SCORE, v.SCOPE_RESULT_READ, v.SCOPE_LINE_ITEM_READ)


@require_GET
def register(request: HttpRequest) -> HttpResponse:
    """Read the platform's configuration, register there, and show the API access to enter there."""
    base, url = settings.BASE_URL, request.GET.get("openid_configuration", "")
    ours = Registration(
        "Kestrelbrook Press",
        f"{base}/lti/login",
        (f"{base}/lti/launch",),
        f"{base}/lti/jwks",
        f"{base}/lti/launch",
        WANTED,
        oneroster={"url": base, "token_url": f"{base}/oauth/token"},
        provisioning=f"{base}/provisioning",
    )
    try:
        configuration = read_configuration(
            httpx.get(url, timeout=10, verify=trusted()).raise_for_status().json(), url
        )
        headers = {"Authorization": f"Bearer {request.GET.get('registration_token', '')}"}
        response = httpx.post(
            configuration.registration_url,
            json=write_registration(ours),
            headers=headers,
            timeout=10,
            verify=trusted(),
        )
        if response.is_error:
            raise LtiError(
                "refused", f"The platform refused the registration: {response.text[:300]}"
            )
        answer = read_registration(response.json(), answered=True)
    except (httpx.HTTPError, ValueError) as error:
        return render(
            request,
            "press/refused.html",
            {"error": LtiError("unreachable", f"The platform cannot be read: {error}")},
            status=400,
        )
    except LtiError as error:
        return render(request, "press/refused.html", {"error": error}, status=400)
    fields = {
        "deployment_id": answer.deployment_id,
        "authorization_url": configuration.authorization_url,
        "token_url": configuration.token_url,
        "jwks_url": configuration.jwks_url,
    }
    Platform.objects.update_or_create(
        issuer=configuration.issuer, client_id=answer.client_id, defaults=fields
    )
    client, _ = ApiClient.objects.get_or_create(
        name=f"{configuration.issuer} {answer.client_id}"[:100]
    )
    return render(
        request, "press/registered.html", {"issuer": configuration.issuer, "client": client}
    )
