"""Around every request: its id, its line in the log, and its count."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from vennpair.service.kernel.metrics import REQUEST_SECONDS, REQUESTS
from vennpair.service.kernel.request_id import HEADER, begin
from vennpair.service.kernel.tracing import tell

log = logging.getLogger("vennpair.requests")
NOWHERE = "none"  # the route of what no route fits: others' guesses would each be one
METHODS = {"GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"}


class Measured:
    """The outermost of our middleware. An id that comes along counts only where a proxy of ours,
    which replaces what its clients say, is in front.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Handle one request."""
        told = request.headers.get(HEADER, "") if settings.PROXIES else ""
        made, begun = begin(told), time.perf_counter()
        tell(request_id=made)
        response = self.get_response(request)
        seconds = time.perf_counter() - begun
        match = request.resolver_match
        route = str(match.route) if match is not None else NOWHERE
        method = request.method if request.method in METHODS else "other"
        REQUESTS.labels(route, method, response.status_code).inc()
        REQUEST_SECONDS.labels(route).observe(seconds)
        response.headers[HEADER] = made
        log.info(
            "%s %s %s",
            method,
            route,
            response.status_code,
            extra={"status": response.status_code, "milliseconds": round(seconds * 1000, 1)},
        )
        return response
