"""Whom to tell of a hole (RFC 9116)."""

from __future__ import annotations

from datetime import timedelta

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.utils import timezone
from django.views.decorators.http import require_safe

GOOD_FOR = timedelta(days=180)


@require_safe
def security_txt(request: HttpRequest) -> HttpResponse:
    """Say whom the operator named (VENNPAIR_SECURITY_CONTACT). Raises Http404 where nobody was."""
    if not settings.SECURITY_CONTACT:
        raise Http404
    expires = (timezone.now() + GOOD_FOR).replace(hour=0, minute=0, second=0, microsecond=0)
    lines = [
        f"Contact: {settings.SECURITY_CONTACT}",
        f"Expires: {expires:%Y-%m-%dT%H:%M:%SZ}",
        f"Canonical: {settings.BASE_URL}/.well-known/security.txt",
    ]
    return HttpResponse("\n".join(lines) + "\n", content_type="text/plain; charset=utf-8")
