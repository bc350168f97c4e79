"""Queue tasks: ids in, thin calls to actions."""

from __future__ import annotations

from django.db import connection
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from vennpair.service.ops.models import Job
from vennpair.service.ops.running import run


@app.task(queue="jobs", retry=RetryStrategy(max_attempts=3, wait=5))
def run_job(job_id: str) -> None:
    """Carry out one job; put it back where the other side asks for patience."""
    try:
        again = run(job_id)
        if again is not None:
            run_job.configure(schedule_in={"seconds": max(1, int(again))}).defer(job_id=job_id)
    finally:
        connection.close()  # a worker's thread may not be used again for long


@app.periodic(cron="* * * * *")
@app.task(queue="jobs", queueing_lock="sweep", retry=RetryStrategy(max_attempts=3, wait=5))
def sweep(timestamp: int) -> None:
    """Take up again what a killed worker left; what is being worked on is left alone by its lock."""
    try:
        take_up()
    finally:
        connection.close()


def take_up() -> int:
    """Enqueue every unfinished job again; return how many. Doing one twice is harmless."""
    ids = [str(pk) for pk in Job.objects.filter(state__in=[Job.State.QUEUED, Job.State.RUNNING]).values_list("pk", flat=True)]
    for job_id in ids:
        run_job.defer(job_id=job_id)
    return len(ids)
