"""The console's one page; the browser's router does the rest."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe


@require_safe
@ensure_csrf_cookie
def console(request: HttpRequest, rest: str = "") -> HttpResponse:
    """Serve the built console, or say how to build it."""
    page = settings.CONSOLE_DIR / "index.html"
    if not page.is_file():
        return HttpResponse(
            "The console is not built. Run 'bash tools/prepare.sh run', then restart the service.",
            status=503,
            content_type="text/plain; charset=utf-8",
        )
    return HttpResponse(page.read_bytes(), headers={"Cache-Control": "no-cache"})
