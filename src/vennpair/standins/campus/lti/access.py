"""The token endpoint, and the check of a token on every service call."""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import timedelta
from functools import wraps

from django.conf import settings
from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_POST

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.tokens import asserted_client, verify_assertion
from vennpair.standins.campus.models import SeenAssertion, Shell, Token, Tool
from vennpair.standins.fetch import fetch_keys

OFFERED = {
    v.SCOPE_LINE_ITEM,
    v.SCOPE_LINE_ITEM_READ,
    v.SCOPE_RESULT_READ,
    v.SCOPE_SCORE,
    v.SCOPE_MEMBERSHIP,
    v.SCOPE_OUTLINE,
    v.SCOPE_OUTLINE_READ,
}
LIFE = timedelta(hours=1)


@csrf_exempt
@require_POST
def token(request: HttpRequest) -> JsonResponse:
    """Give an access token for a signed assertion (Security Framework 4.1)."""
    try:
        tool = Tool.objects.filter(client_id=asserted_client(request.POST.dict())).first()
        if tool is None:
            raise LtiError("invalid_client", "This client is not registered.")
        token_url = f"{settings.BASE_URL}/lti/token"
        assertion, scopes = verify_assertion(
            request.POST.dict(),
            fetch_keys(tool.jwks_url),
            client_id=tool.client_id,
            token_url=token_url,
            now=int(time.time()),
        )
        with transaction.atomic():
            SeenAssertion.objects.create(value=f"{tool.pk}:{assertion}")
    except IntegrityError:
        return JsonResponse(
            {"error": "invalid_client", "error_description": "This assertion was used before."},
            status=400,
        )
    except LtiError as error:
        return JsonResponse({"error": error.code, "error_description": error.message}, status=400)
    granted = [
        scope for scope in scopes if scope in OFFERED and (not tool.scopes or scope in tool.scopes)
    ]
    if not granted:
        return JsonResponse(
            {"error": "invalid_scope", "error_description": "None of these scopes is offered."},
            status=400,
        )
    given = Token.objects.create(tool=tool, scopes=granted, expires=timezone.now() + LIFE)
    return JsonResponse(
        {
            "access_token": given.value,
            "token_type": "Bearer",
            "expires_in": int(LIFE.total_seconds()),
            "scope": " ".join(granted),
        }
    )


def problem(status: int, detail: str) -> JsonResponse:
    """Return an error as application/problem+json."""
    return JsonResponse(
        {"status": status, "detail": detail}, status=status, content_type="application/problem+json"
    )


def service(
    **scopes: set[str],
) -> Callable[[Callable[..., HttpResponse]], Callable[..., HttpResponse]]:
    """Guard a service view: each method names the scopes of which one is needed."""

    def wrap(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
        @csrf_exempt
        @wraps(view)
        def guarded(request: HttpRequest, context_id: str, **rest: str) -> HttpResponse:
            needed = scopes.get((request.method or "").lower())
            if needed is None:
                return problem(405, f"{request.method} is not offered here.")
            kind, _, value = request.headers.get("Authorization", "").partition(" ")
            given = (
                Token.objects.filter(value=value, expires__gt=timezone.now()).first()
                if kind == "Bearer"
                else None
            )
            if given is None:
                return problem(401, "The access token is missing, unknown or expired.")
            if not needed & set(given.scopes):
                return problem(
                    403, f"The access token lacks the scope {' or '.join(sorted(needed))}."
                )
            shell = Shell.objects.filter(context_id=context_id).first()
            if shell is None:
                return problem(404, "There is no such course.")
            return view(request, shell, **rest)

        return guarded

    return wrap
