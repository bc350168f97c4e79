"""Which workers are there."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateWorker

HEARTBEAT = timedelta(minutes=1)  # at least so often a worker is heard of


def workers_alive() -> int:
    """Return how many workers were heard of in the last minute, on all machines."""
    since = timezone.now() - HEARTBEAT
    return ProcrastinateWorker.objects.filter(last_heartbeat__gte=since).count()
