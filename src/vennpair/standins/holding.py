"""Hold points: a test tells a stand-in beforehand what to do with the calls that will come.

Held until told, answered otherwise, slow, or down: so that a test waits for the moment it means
instead of racing it. ``POST /hold-points`` makes one (its fields are those of ``HoldPoint``),
``GET /hold-points/{number}`` says what came, ``DELETE /hold-points/{number}`` lets go what is held.
Only who knows the stand-in's secret key may ask; hold points live as long as the process.
"""

from __future__ import annotations

import json
import re
import threading
import time
from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass, field

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse

PATH = "/hold-points"
KEY_HEADER = "X-Hold-Key"
LONGEST_HOLD_SECONDS = 180


@dataclass
class HoldPoint:
    """What happens to calls whose method and path fit, after the first ``after`` of them.

    ``hold`` is ``before`` (the call is not carried out until it is let go), ``drop`` (nor then),
    ``after`` (it is carried out and its answer kept back) or empty. ``status`` answers in the place
    of the stand-in, with ``headers``; 0 lets it answer. ``seconds`` makes it slow. ``times`` is how
    many calls are meant, 0 for all that come.
    """

    method: str
    path: str
    after: int = 0
    times: int = 0
    hold: str = ""
    status: int = 0
    headers: Mapping[str, str] = field(default_factory=dict)
    seconds: float = 0
    came: int = 0
    held: int = 0
    released: bool = False

    def takes(self, request: HttpRequest) -> bool:
        """Count a call that fits; say whether it is one of those that are meant."""
        if self.released or not self._fits(request):
            return False
        self.came += 1
        meant = self.came - self.after
        return meant > 0 and (not self.times or meant <= self.times)

    def _fits(self, request: HttpRequest) -> bool:
        return request.method == self.method and re.search(self.path, request.path) is not None


class HoldPoints:
    """Middleware: makes hold points, and lets calls meet them."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response
        self._points: list[HoldPoint] = []
        self._changed = threading.Condition()

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer a question about hold points, or let the call meet them."""
        if request.path.startswith(PATH):
            return self._ask(request)
        with self._changed:
            point = next((each for each in self._points if each.takes(request)), None)
            self._changed.notify_all()
        if point is None:
            return self._get_response(request)
        time.sleep(point.seconds)
        if point.hold in {"before", "drop"}:
            self._hold(point)
        status = point.status or (503 if point.hold == "drop" else 0)
        if status:
            return HttpResponse(status=status, headers=dict(point.headers))
        answer = self._get_response(request)
        if point.hold == "after":
            self._hold(point)
        return answer

    def _hold(self, point: HoldPoint) -> None:
        with self._changed:
            point.held += 1
            self._changed.notify_all()
            self._changed.wait_for(lambda: point.released, LONGEST_HOLD_SECONDS)
            point.held -= 1

    def _ask(self, request: HttpRequest) -> HttpResponse:
        if request.headers.get(KEY_HEADER) != settings.SECRET_KEY:
            return HttpResponse(status=404)
        with self._changed:
            if request.method == "POST":
                self._points.append(HoldPoint(**json.loads(request.body)))
                return JsonResponse({"number": len(self._points) - 1}, status=201)
            point = self._points[int(request.path.removeprefix(f"{PATH}/"))]
            if request.method == "DELETE":
                point.released = True
                self._changed.notify_all()
            return JsonResponse(asdict(point))
