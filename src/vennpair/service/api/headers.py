"""What holds for every request before anything looks at it, and for every answer."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from vennpair.service.api.framing import frame_ancestors

FORM = "application/x-www-form-urlencoded"
# Styles are written by the component library at run time, hence 'unsafe-inline' for them alone.
POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; base-uri 'none';"
    " object-src 'none'"
)


class RefuseNul:
    """Refuses addresses and forms with a NUL in them: PostgreSQL keeps no such character, so
    nothing of ours has one in its name.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Handle one request."""
        nul = "\x00" in request.path or "%00" in request.META.get("QUERY_STRING", "")
        if nul or (
            request.content_type == FORM and (b"%00" in request.body or b"\x00" in request.body)
        ):
            return HttpResponse(
                "The address or the form holds a character that none of ours has (NUL). Leave it"
                " out.",
                status=400,
                content_type="text/plain; charset=utf-8",
            )
        return self.get_response(request)


OWN = "frame-ancestors "
KEYS = "/lti/jwks"  # public, and kept by others for a while
# What no page of ours uses.
UNUSED = "camera=(), geolocation=(), microphone=(), payment=(), usb=()"


class SafetyHeaders:
    """Adds a content security policy to what has none, and to all who may frame it: the platforms,
    as LTI asks. What the API says is of learners, so nobody in between keeps it.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Handle one request."""
        response = self.get_response(request)
        page = response.headers.get("Content-Type", "").startswith("text/html")
        around = frame_ancestors(request) if page and response.status_code < 500 else "'none'"
        policy = response.headers.get("Content-Security-Policy", POLICY)
        if OWN not in policy:
            policy = f"{policy.rstrip('; ')}; {OWN}{around}"
        response.headers["Content-Security-Policy"] = policy
        response.headers.setdefault("Permissions-Policy", UNUSED)
        if request.path.startswith(("/api/", "/lti/")) and request.path != KEYS:
            response.headers.setdefault("Cache-Control", "no-store")
        return response
