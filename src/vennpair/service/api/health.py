"""Whether the process lives, and whether the service is ready: for load balancers and monitors.

``/livez`` asks nothing of anybody. ``/readyz`` looks at all that the service needs and answers 503
where something is missing, with every part and its words; it tells nothing about anybody.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.db.models import Min
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.service.connect.keys import signing_key
from vennpair.service.kernel.hold.state import state
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.workers import workers_alive

LONGEST_WAIT = timedelta(minutes=15)  # of a job in the queue


@dataclass(frozen=True, slots=True)
class Part:
    """One thing that the service needs, and how it is."""

    name: str
    ok: bool
    words: str


def livez(request: HttpRequest) -> HttpResponse:
    """Answer 200: the process answers."""
    return _plain({"alive": True}, 200)


def readyz(request: HttpRequest) -> HttpResponse:
    """Answer 200 where all is there, else 503."""
    parts = look()
    ready = all(each.ok for each in parts)
    rows = [{"name": each.name, "ok": each.ok, "words": each.words} for each in parts]
    return _plain({"ready": ready, "parts": rows}, 200 if ready else 503)


def look() -> list[Part]:
    """Return every part; without a database nothing is asked of it."""
    console = settings.CONSOLE_DIR / "index.html"
    there = console.is_file()
    found = [Part("console", there, "there" if there else f"{console} is not there")]
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError as error:
        return [Part("database", False, f"does not answer: {str(error).strip()[:200]}"), *found]
    looks: tuple[Callable[[], Part], ...] = (_migrations, _keys, _workers, _queue, _hold)
    return [Part("database", True, "answers"), *found, *(each() for each in looks)]


def _migrations() -> Part:
    executor = MigrationExecutor(connection)
    left = executor.migration_plan(executor.loader.graph.leaf_nodes())
    words = "all applied"
    if left:
        words = f"{many(len(left), 'is', 'are')} not applied: run vennpair-server migrate"
    return Part("migrations", not left, words)


def _keys() -> Part:
    try:
        signing_key()
    except LookupError:
        return Part("keys", False, "there is no signing key yet: run vennpair-server install")
    except Exception as error:  # whatever a wrong key makes of a sealed text
        return Part(
            "keys",
            False,
            f"VENNPAIR_SECRETS_KEYS opens none of what is stored ({type(error).__name__}): name the"
            " key that sealed it",
        )
    return Part("keys", True, "open what is stored")


def _workers() -> Part:
    alive = workers_alive()
    words = many(alive, "worker")
    return Part("workers", alive > 0, words if alive else "none runs: start vennpair-server work")


def _queue() -> Part:
    waiting = Job.objects.filter(state=Job.State.QUEUED)
    oldest = waiting.aggregate(oldest=Min("made_at"))["oldest"]
    waits = timezone.now() - oldest if oldest else timedelta()
    words = f"the oldest job waits {many(int(waits.total_seconds()), 'second')}"
    return Part("queue", waits < LONGEST_WAIT, words if oldest else "nothing waits")


def _hold() -> Part:
    try:
        _, why = state()
    except DatabaseError:  # a database of before there was a hold
        return Part("hold", True, "not known before the migrations are applied")
    return Part("hold", True, f"outgoing calls are kept back: {why}" if why else "none")


def _plain(document: dict[str, object], status: int) -> HttpResponse:
    return JsonResponse(document, status=status, headers={"Cache-Control": "no-store"})
