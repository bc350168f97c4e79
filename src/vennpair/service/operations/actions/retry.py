"""Do again what an operation could not do."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import AlreadyRunning, start_again
from vennpair.service.operations.actions.begin import busy
from vennpair.service.operations.kinds import count_steps, kind_of
from vennpair.service.operations.steps import StepState


def retry(job: Job) -> tuple[Job, int]:
    """Do again just what could not be done or was not begun; return the job and how many steps.

    What a later operation has done since is noted as done, also where nothing else is left. Raises
    Refused where that is so, or one of its kind runs.
    """
    kind = kind_of(job)
    with transaction.atomic():
        # Two who ask at once come one after the other, and the second finds it under way.
        job = Job.objects.select_for_update(of=("self",)).get(pk=job.pk)
        if job.unfinished:
            raise busy(kind, job)
        left = kind.prepare_again(job)
        if left:
            done = count_steps([job]).get(job.pk, {}).get(StepState.DONE, 0)
            try:
                start_again(job, done=done, total=max(job.total, done + left))
            except AlreadyRunning as error:
                raise busy(kind, error.job) from None
    if not left:  # said once it is written down what was done since
        raise Refused(
            "nothing_to_do", "Every step of it was done.", "Nothing needs to be done again.", 409
        )
    return job, left
