"""The two addresses of signing in at the college: out to its provider, and back from it.

What belongs to one sign-in travels in a signed cookie of that browser; nothing is kept of sign-ins
that nobody ends.
"""

from __future__ import annotations

import secrets
from typing import Any
from uuid import UUID

from django.conf import settings
from django.core import signing
from django.core.cache import cache
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils.crypto import constant_time_compare
from django.views.decorators.http import require_GET

from vennpair.gateways.http import OutsideError
from vennpair.gateways.openid import find_provider, signed_in
from vennpair.service.connect.actions.college_sign_in import take_in
from vennpair.service.connect.bulkhead import enter
from vennpair.service.connect.models import CollegeSignIn
from vennpair.service.connect.secrets import unseal
from vennpair.service.connect.sessions import sign_in
from vennpair.service.kernel.errors import Refused
from vennpair.standards.openid import Provider, asking_url

COOKIE, SALT, SECONDS = "vennpair_college", "college sign-in", 600
BACK = "/sign-in/college/back"


def redirect_uri() -> str:
    """Return where the provider sends browsers back to; it must know this address."""
    return f"{settings.BASE_URL}{BACK}"


@require_GET
def begin(request: HttpRequest, college_id: UUID) -> HttpResponse:
    """Send a browser to the provider."""
    college = CollegeSignIn.objects.filter(pk=college_id, active=True).first()
    if college is None:
        return _refusal("This way of signing in is no longer offered.", 404)
    going = {name: secrets.token_urlsafe(32) for name in ("state", "nonce", "verifier")}
    try:
        provider = _provider(college)
    except OutsideError as error:
        return _refusal(f"{error.failure.message} {error.failure.remedy}", 502)
    onward = asking_url(
        provider,
        college.client_id,
        redirect_uri(),
        going["state"],
        going["nonce"],
        going["verifier"],
    )
    response = redirect(onward)
    response.set_cookie(
        COOKIE,
        signing.dumps(going | {"college": str(college.pk)}, salt=SALT),
        max_age=SECONDS,
        secure=settings.SECURE,
        httponly=True,
        samesite="Lax",
        path="/sign-in/college",
    )
    return response


@require_GET
def back(request: HttpRequest) -> HttpResponse:
    """Take a browser that comes back, and sign it in."""
    going = _going(request)
    if going is None:
        return _refusal("This sign-in was not begun in this browser, or took too long.", 400)
    if request.GET.get("error"):
        return _refusal("The college's sign-in was not finished there.", 400)
    college = CollegeSignIn.objects.filter(pk=going["college"], active=True).first()
    if college is None:
        return _refusal("This way of signing in is no longer offered.", 404)
    try:
        who = signed_in(
            _provider(college),
            (college.client_id, unseal(college.secret)),
            request.GET.get("code", ""),
            redirect_uri(),
            going["nonce"],
            going["verifier"],
            college.issuer,
        )
        user = take_in(college, who)
    except OutsideError as error:
        return _refusal(f"{error.failure.message} {error.failure.remedy}", 502)
    except Refused as error:
        return _refusal(f"{error.message} {error.remedy}", error.status)
    sign_in(request, user)
    response = redirect("/")
    response.delete_cookie(COOKIE, path="/sign-in/college")
    return response


def _provider(college: CollegeSignIn) -> Provider:
    """Return where the provider is asked, as known for some minutes. Raises OutsideError."""
    enter(college.institution_id)
    key = f"provider:{college.pk}:{college.issuer}"
    known: Provider | None = cache.get(key)
    if known is None:
        known = find_provider(college.issuer, college.issuer)
        cache.set(key, known, SECONDS)
    return known


def _going(request: HttpRequest) -> dict[str, Any] | None:
    """Return what was remembered of the sign-in that comes back, None where it is another."""
    try:
        going = signing.loads(request.COOKIES.get(COOKIE, ""), salt=SALT, max_age=SECONDS)
    except signing.BadSignature:
        return None
    fits = constant_time_compare(request.GET.get("state", ""), going["state"])
    return dict(going) if fits else None


def _refusal(words: str, status: int) -> HttpResponse:
    return HttpResponse(
        f"{words}\n\nBack to the sign-in page: {settings.BASE_URL}/sign-in",
        status=status,
        content_type="text/plain; charset=utf-8",
    )
