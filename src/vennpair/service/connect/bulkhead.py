"""How many of a process's threads one institution may hold in calls to its own platforms and
publishers: a share, so that one that answers slowly never takes them all.
"""

from __future__ import annotations

import threading
import time
from collections import Counter
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.errors import OutsideError

WAIT_SECONDS = 3.0
_room = threading.Condition()
_held: Counter[Any] = Counter()
_waiting: Counter[Any] = Counter()
_request = threading.local()


def share() -> int:
    """Return how many threads one institution may hold: half of them, and one at least."""
    return max(1, int(settings.WEB_THREADS) // 2)


class OutsideShare:
    """Middleware: a request that calls outside holds a place of its institution until it ends."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Handle one request."""
        _request.places = set()
        try:
            return self.get_response(request)
        finally:
            _leave(_request.places)
            del _request.places


def enter(institution: Any) -> None:
    """Take a place for the request that this thread handles, once; outside of requests nothing is
    counted.

    Raises OutsideError ``crowded`` where the institution has its share in use and enough wait.
    """
    places: set[Any] | None = getattr(_request, "places", None)
    if places is None or institution in places:
        return
    until = time.monotonic() + WAIT_SECONDS
    with _room:
        if _held[institution] >= share():
            if _waiting[institution] >= max(1, share() // 2):
                raise _crowded()
            _waiting[institution] += 1
            try:
                while _held[institution] >= share():
                    if not _room.wait(until - time.monotonic()):
                        raise _crowded()
            finally:
                _waiting[institution] -= 1
        _held[institution] += 1
    places.add(institution)


def _leave(places: set[Any]) -> None:
    with _room:
        for institution in places:
            _held[institution] -= 1
            if not _held[institution]:
                del _held[institution]
        _room.notify_all()


def _crowded() -> OutsideError:
    return OutsideError(
        Failure(
            FailureKind.LATER,
            "crowded",
            "Your college's platform or publisher answers slowly, and several requests wait for it"
            " already.",
            "Try again in a moment; if it lasts, look at the connection.",
            WAIT_SECONDS,
        )
    )
