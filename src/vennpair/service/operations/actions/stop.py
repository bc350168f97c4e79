"""Stop an operation."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.queue import RUN_JOB, enqueue


def stop(job: Job) -> Job:
    """Ask an operation to stop, in the caller's transaction; what is in flight is finished first.

    Raises Refused where it has ended.
    """
    with transaction.atomic():
        job = Job.objects.select_for_update(of=("self",)).get(pk=job.pk)
        if not job.unfinished:
            raise Refused(
                "nothing_running",
                "This has ended already.",
                "Undo it, if that is what you want.",
                409,
            )
        job.cancel_asked = True
        job.save(update_fields=["cancel_asked"])
        # One that waits for the platform would notice only at its next try.
        enqueue(RUN_JOB, job_id=str(job.pk))
    return job
