"""Starting jobs and carrying them out: one way for imports, rollouts and comparisons.

A job is a row; the queue only carries its id. Its body may be called again at any time (a killed
worker, a platform that was down): it looks at what is done and goes on from there.
"""

from __future__ import annotations

import logging
from collections.abc import Callable
from contextlib import suppress
from typing import Any

from django.contrib.auth.base_user import AbstractBaseUser
from django.db import IntegrityError, InterfaceError, OperationalError, transaction
from django.db.models import Model
from django.utils import timezone

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.hold import HELD
from vennpair.gateways.http import OutsideError
from vennpair.service.kernel.audit.notify import notify
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.locks import Busy, LockLost, only_one, require_held
from vennpair.service.kernel.jobs.models import UNFINISHED, Job
from vennpair.service.kernel.jobs.queue import RUN_JOB, enqueue
from vennpair.service.kernel.jobs.telling import others_of, tell
from vennpair.service.kernel.metrics import JOBS
from vennpair.service.kernel.tracing import span
from vennpair.service.kernel.web.acting import note_acted

log = logging.getLogger(__name__)
MOST_TRIES = 100  # some three hours
LONGEST_WAIT = 120.0  # seconds; what waits goes on soon after the other side is back
TRIES_TO_SAVE = 5
MOST_STARTS = 5  # without getting on between them, each of which killed its worker

Body = Callable[[Job], str]
_bodies: dict[str, Body] = {}


def carries_out(kind: str, body: Body) -> None:
    """Register the body of a kind of job; it returns the message that the job ends with."""
    _bodies[kind] = body


class AlreadyRunning(Exception):
    """The pairing has one of these under way; ``job`` is it."""

    def __init__(self, job: Job) -> None:
        super().__init__(str(job.pk))
        self.job = job


def start_job(
    kind: str,
    pairing: Model,
    actor: AbstractBaseUser | None,
    total: int = 0,
    message: str = "waits for a worker",
    *,
    alone: str = "",
    **fields: Any,
) -> Job:
    """Make a job and enqueue it in the caller's transaction.

    Of one ``alone`` a pairing has one at a time: of two that are asked for in the same moment the
    second waits here until the first is there, then raises AlreadyRunning.
    """
    job = Job(
        kind=kind,
        pairing_id=pairing.pk,
        made_by_id=actor.pk if actor else None,
        total=total,
        message=message,
        alone=alone,
        **fields,
    )
    _save_alone(job, new=True)
    note_acted()
    if job.unfinished:
        enqueue(RUN_JOB, lock=f"job:{job.pk}", job_id=str(job.pk))
    return job


def start_again(job: Job, **fields: Any) -> None:
    """Enqueue a job that has ended, or was proposed, in the caller's transaction.

    Raises AlreadyRunning.
    """
    job.state, job.cancel_asked, job.ended_at = Job.State.QUEUED, False, None
    job.tries, job.starts = 0, 0
    job.message, job.remedy = "waits for a worker", ""
    for name, value in fields.items():
        setattr(job, name, value)
    _save_alone(job)
    enqueue(RUN_JOB, lock=f"job:{job.pk}", job_id=str(job.pk))


def _save_alone(job: Job, *, new: bool = False) -> None:
    """Save a job in a transaction of its own. Raises AlreadyRunning where the database refuses a
    second one.
    """
    for turn in range(TRIES_TO_SAVE):
        try:
            with transaction.atomic():
                job.save(force_insert=new)
            return
        except IntegrityError:
            others = Job.objects.filter(
                pairing=job.pairing_id, alone=job.alone, state__in=UNFINISHED
            ).exclude(pk=job.pk)
            if (other := others.first()) is not None:
                raise AlreadyRunning(other) from None
            if turn == TRIES_TO_SAVE - 1:
                raise
            # The other one ended between its refusal and our look: there is room now.


def run(job_id: str) -> None:
    """Carry out a job, unless it has ended or another worker is at it."""
    with suppress(Busy), only_one(f"job:{job_id}"):
        job = Job.objects.select_related(
            "pairing__shell__platform__institution", "pairing__course__publisher"
        ).get(pk=job_id)
        if job.unfinished:
            _run(job)


class Cancelled(Exception):
    """Somebody asked to stop; the message says how far it came."""


def cancel_asked(job: Job) -> bool:
    """Say whether somebody asked to stop the job. Raises LockLost where the worker does not hold
    it any more: the queue gives it to one that does.
    """
    found = Job.objects.filter(pk=job.pk, cancel_asked=True).exists()
    require_held()
    return found


def step_done(job: Job, message: str = "", count: int = 1) -> None:
    """Count steps as done; call it inside their transaction.

    What gets on is not given up: only tries in vain are counted. Raises LockLost where the worker
    does not hold the job any more.
    """
    require_held()
    job.done += count
    job.tries = 0
    job.message = message or job.message
    job.save(update_fields=["done", "message", "tries"])


def _run(job: Job) -> None:
    job.state, job.tries = Job.State.RUNNING, job.tries + 1
    job.starts = job.starts + 1 if job.stood_at == job.done else 1
    job.stood_at = job.done
    job.save(update_fields=["state", "tries", "starts", "stood_at"])
    if job.starts > MOST_STARTS:
        _set_aside(job)
        return
    try:
        with span("job", kind=job.kind, job=str(job.pk), pairing=str(job.pairing_id)):
            message = _bodies[job.kind](job)
    except OutsideError as error:
        failure = error.failure
        if failure.code == HELD:  # was not tried: counts as none
            Job.objects.filter(pk=job.pk).update(tries=job.tries - 1)
            _wait(job, failure)
        elif failure.kind is FailureKind.LATER and job.tries < MOST_TRIES:
            _wait(job, failure)
        else:
            _settle(job, Job.State.FAILED, failure.message, failure.remedy)
    except Refused as error:
        _settle(job, Job.State.FAILED, error.message, error.remedy)
    except Cancelled as error:
        _settle(
            job,
            Job.State.CANCELLED,
            str(error),
            "What was done stays; the rest can be asked for again.",
        )
    except (LockLost, OperationalError, InterfaceError):
        raise  # whoever holds it next, or once the database is back, goes on from what is done
    except Exception:
        log.exception("job %s of kind %s ended by an error of ours", job.pk, job.kind)
        _settle(
            job,
            Job.State.FAILED,
            "Venn Pair made a mistake of its own; nothing was lost.",
            "Start it again; if it stays, tell the administrator.",
        )
    else:
        _settle(job, Job.State.DONE, message, "")


def _set_aside(job: Job) -> None:
    """Give up a job that seems to end every worker that takes it up, and say so."""
    words = (
        f"It was set aside: it was begun {MOST_STARTS} times, and each time the worker ended in the"
        " middle of it."
    )
    log.error("job %s of kind %s is set aside: %s", job.pk, job.kind, words)
    with transaction.atomic():
        told = _settle(
            job,
            Job.State.FAILED,
            words,
            "So it keeps nothing else from being done. Tell the administrator; a smaller package may"
            " work.",
        )
        if job.made_by is not None and not told:
            sentence = f"Something that you began has ended. {words}"
            notify(job.made_by, sentence, f"/pairings/{job.pairing_id}", job.pairing)


def _wait(job: Job, failure: Failure) -> None:
    """Note that the other side asks for patience, and enqueue the next try with it."""
    seconds = max(failure.retry_after or 0, min(2.0 ** min(job.tries, 12), LONGEST_WAIT))
    with transaction.atomic():
        _settle(job, Job.State.WAITING, failure.message, failure.remedy)
        enqueue(RUN_JOB, seconds=seconds, job_id=str(job.pk))


def _settle(job: Job, state: str, message: str, remedy: str) -> bool:
    """Note how a job ended, or that it waits; say whether whoever began it is told of its end."""
    ended = None if state == Job.State.WAITING else timezone.now()
    with transaction.atomic():
        others = others_of(job) if ended else []
        Job.objects.filter(pk=job.pk).update(
            state=state, message=message[:500], remedy=remedy[:500], ended_at=ended, starts=0
        )
        job.state, job.message, job.remedy = state, message, remedy
        if ended:
            JOBS.labels(job.kind, str(state)).inc()
        return tell(job, others) if ended else False
