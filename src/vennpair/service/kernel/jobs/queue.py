"""The one way to enqueue: by a task's name, with ids only, in the caller's transaction."""

from __future__ import annotations

from django.db import transaction
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued

RUN_JOB, RELAY_PAIRING, REFRESH_COURSES, SEND_NOTICE = (
    "run_job",
    "relay_pairing",
    "refresh_courses",
    "send_notice",
)


def enqueue(task: str, *, lock: str | None = None, seconds: float = 0, **ids: str) -> None:
    """Enqueue a task, to start after so many seconds.

    Of one ``lock``, at most one waits at a time.
    """
    try:
        with transaction.atomic():
            app.configure_task(
                task, queueing_lock=lock, schedule_in={"seconds": int(seconds)} if seconds else None
            ).defer(**ids)
    except AlreadyEnqueued:
        return
