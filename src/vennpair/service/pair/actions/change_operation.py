"""Stop, retry or undo an operation of a pairing, by somebody who may."""

from __future__ import annotations

from django.db import transaction

from vennpair.core.counting import many
from vennpair.service.connect.models import User
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.actions.retry import retry
from vennpair.service.operations.actions.stop import stop
from vennpair.service.operations.kinds import kind_of
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record


def stop_operation(job: Job, actor: User) -> Job:
    """Ask an operation to stop; what is in flight is finished first.

    Raises Refused where it has ended.
    """
    require_instructor(actor, job.pairing.shell)
    with transaction.atomic():
        stopped = stop(job)
        record(
            "operation.stopped",
            f"{kind_of(job).says(job)}: it was asked to stop.",
            pairing=job.pairing,
            actor=actor,
        )
    return stopped


def retry_operation(job: Job, actor: User) -> Job:
    """Do again just what could not be done or was not begun.

    Raises Refused where that is nothing, or one of its kind runs.
    """
    require_instructor(actor, job.pairing.shell)
    again, left = retry(job)
    record(
        "operation.retried",
        f"{kind_of(job).says(job)}: {many(left, 'step is', 'steps are')} tried again.",
        pairing=job.pairing,
        actor=actor,
    )
    return again


def undo_operation(job: Job, actor: User) -> Job:
    """Begin the undoing of an operation; return the job that undoes it.

    Raises Refused where nothing can be undone, and OutsideError.
    """
    require_instructor(actor, job.pairing.shell)
    return kind_of(job).undo(job, actor)
