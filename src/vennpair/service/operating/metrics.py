"""``/metrics`` in the Prometheus text format: what the web processes of this machine counted, and
what the database says of all. A worker tells its own counts where it is asked to (``work
--metrics``).
"""

from __future__ import annotations

import hmac
import os
from collections.abc import Iterator
from datetime import datetime

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.models import Count, Min
from django.http import Http404, HttpRequest, HttpResponse
from django.utils import timezone
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, generate_latest
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.metrics_core import Metric
from prometheus_client.multiprocess import MultiProcessCollector

from vennpair.service.kernel.hold.state import state
from vennpair.service.kernel.jobs.models import UNFINISHED, Job
from vennpair.service.kernel.jobs.workers import workers_alive
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.models import Cell
from vennpair.service.relay.queries import UNDELIVERED

OPEN, OFF = "open", "off"


def metrics(request: HttpRequest) -> HttpResponse:
    """Answer whom the operator lets ask; to all others there is no such address."""
    if not _may_ask(request):
        raise Http404
    registry = CollectorRegistry()
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
        registry.register(FromDatabase())
        return HttpResponse(generate_latest(registry), content_type=CONTENT_TYPE_LATEST)
    registry.register(FromDatabase())
    both = generate_latest(REGISTRY) + generate_latest(registry)
    return HttpResponse(both, content_type=CONTENT_TYPE_LATEST)


def _may_ask(request: HttpRequest) -> bool:
    wanted = str(settings.METRICS)
    if wanted == OFF:
        return False
    given = request.headers.get("Authorization", "")
    return wanted == OPEN or hmac.compare_digest(given.encode(), f"Bearer {wanted}".encode())


class FromDatabase:
    """Gauges of the whole service, the same whichever machine is asked."""

    def collect(self) -> Iterator[Metric]:
        """Yield them; without a database only that."""
        try:
            yield from [*self._queue(), *self._scores(), *self._service()]
        except DatabaseError:
            yield _gauge("vennpair_database_up", "Whether the database answers.", 0)
        else:
            yield _gauge("vennpair_database_up", "Whether the database answers.", 1)

    def _queue(self) -> Iterator[Metric]:
        rows = Job.objects.filter(state__in=UNFINISHED).order_by()
        family = GaugeMetricFamily(
            "vennpair_jobs", "Jobs that have not ended.", labels=["kind", "state"]
        )
        for kind, standing, count in rows.values_list("kind", "state").annotate(Count("pk")):
            family.add_metric([kind, standing], count)
        yield family
        oldest = rows.filter(state=Job.State.QUEUED).aggregate(oldest=Min("made_at"))["oldest"]
        yield _gauge("vennpair_oldest_job_seconds", "How long the oldest job waits.", _age(oldest))

    def _scores(self) -> Iterator[Metric]:
        rows = Cell.objects.filter(state__in=UNDELIVERED).order_by()
        family = GaugeMetricFamily(
            "vennpair_scores", "Scores that are not in the gradebook yet.", labels=["state"]
        )
        counts = dict(rows.values_list("state").annotate(Count("pk")))
        for standing in UNDELIVERED:
            family.add_metric([str(standing)], counts.get(str(standing), 0))
        yield family
        oldest = rows.filter(state=Cell.State.WAITING).aggregate(oldest=Min("since"))["oldest"]
        words = "How long the oldest score waits that could go."
        yield _gauge("vennpair_oldest_score_seconds", words, _age(oldest))

    def _service(self) -> Iterator[Metric]:
        words = "Workers that were heard of in the last minute."
        yield _gauge("vennpair_workers", words, workers_alive())
        live = Pairing.objects.filter(state=Pairing.State.LIVE).count()
        yield _gauge("vennpair_live_pairings", "Pairings that are live.", live)
        yield _gauge(
            "vennpair_on_hold", "Whether outgoing calls are kept back.", float(bool(state()[1]))
        )
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_database_size(current_database())")
            (size,) = cursor.fetchone()
        yield _gauge("vennpair_database_bytes", "Size of the database.", size)


def _gauge(name: str, words: str, value: float) -> Metric:
    return GaugeMetricFamily(name, words, value=value)


def _age(moment: datetime | None) -> float:
    return (timezone.now() - moment).total_seconds() if moment else 0.0
