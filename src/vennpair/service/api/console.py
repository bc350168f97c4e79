"""The console's one page; the browser's router does the rest."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe

# What the console's own addresses begin with (console/src/router.ts); all else is nowhere.
PAGES = frozenset(
    {
        "",
        "sign-in",
        "access",
        "connections",
        "accounts",
        "operations",
        "notices",
        "pick",
        "agreement",
        "files",
        "set-up",
        "set-ups",
        "shells",
        "help",
        "pairings",
    }
)


@require_safe
@ensure_csrf_cookie
def console(request: HttpRequest, rest: str = "") -> HttpResponse:
    """Serve the built console, or say how to build it; 404 where it has no such page."""
    page = settings.CONSOLE_DIR / "index.html"
    if not page.is_file():
        return HttpResponse(
            "The console is not built. Run 'bash tools/prepare.sh run', then restart the service.",
            status=503,
            content_type="text/plain; charset=utf-8",
        )
    known = rest.split("/", 1)[0] in PAGES
    return HttpResponse(
        page.read_bytes(), status=200 if known else 404, headers={"Cache-Control": "no-cache"}
    )
