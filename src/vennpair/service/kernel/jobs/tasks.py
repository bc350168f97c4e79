"""Queue tasks: ids in, thin calls to actions."""

from __future__ import annotations

import logging

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app
from procrastinate.jobs import Status

from vennpair.service.kernel.jobs.locks import is_held
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.periodic import every
from vennpair.service.kernel.jobs.queue import RUN_JOB, enqueue
from vennpair.service.kernel.jobs.running import run
from vennpair.service.kernel.purging import purge

STALLED_SECONDS = 120
log = logging.getLogger(__name__)


@app.task(name=RUN_JOB, queue="jobs", retry=RetryStrategy(max_attempts=3, wait=5))
def run_job(job_id: str) -> None:
    """Carry out one job."""
    run(job_id)


@every("* * * * *")
@app.task(queue="jobs", queueing_lock="sweep", retry=RetryStrategy(max_attempts=3, wait=5))
def sweep(timestamp: int) -> None:
    """Take up again what a killed worker left.

    What is being worked on is left alone by its lock.
    """
    take_up()


@every("*/5 * * * *")
@app.task(queue="jobs", queueing_lock="tidy")
async def tidy(timestamp: int) -> None:
    """Take out of the queue what killed workers held.

    The work itself was taken up by the sweeps.
    """
    for stalled in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_SECONDS):
        await app.job_manager.finish_job(stalled, status=Status.FAILED, delete_job=True)


@every("17 * * * *")
@app.task(queue="jobs", queueing_lock="purge")
def purge_spent(timestamp: int) -> None:
    """Delete what has served its purpose."""
    gone = {what: count for what, count in purge().items() if count}
    if gone:
        log.info("deleted as kept no longer: %s", gone)


def take_up(*, held: bool = False) -> int:
    """Enqueue every unfinished job again that is not in the queue; return how many.

    ``held``: also what somebody seems to work on, as a worker that was killed a moment ago still
    does. Doing one twice is harmless.
    """
    left = Job.objects.filter(state__in=[Job.State.QUEUED, Job.State.RUNNING])
    ids = [str(pk) for pk in left.values_list("pk", flat=True)]
    ids = [each for each in ids if held or not is_held(f"job:{each}")]
    for job_id in ids:
        enqueue(RUN_JOB, lock=f"job:{job_id}", job_id=job_id)  # one that waits already is enough
    return len(ids)
