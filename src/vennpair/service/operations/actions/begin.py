"""Begin an operation."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.base_user import AbstractBaseUser
from django.db.models import Model

from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import AlreadyRunning, start_job
from vennpair.service.operations.kinds import Kind, kind_named


def begin(
    name: str,
    pairing: Model,
    actor: AbstractBaseUser | None,
    total: int,
    *,
    proposed: bool = False,
    **fields: Any,
) -> Job:
    """Make and enqueue an operation of the kind ``name`` in the caller's transaction; a proposal
    waits for somebody.

    Raises Refused where the pairing has one of its kind under way.
    """
    kind = kind_named(name)
    try:
        return start_job(
            name,
            pairing,
            actor,
            total,
            alone=kind.alone,
            state=Job.State.PROPOSED if proposed else Job.State.QUEUED,
            **fields,
        )
    except AlreadyRunning as error:
        raise busy(kind, error.job) from None


def busy(kind: Kind, running: Job) -> Refused:
    """Return the refusal of a second one."""
    code, words, remedy = kind.busy
    return Refused(code, words.format(done=running.done, total=running.total), remedy, 409)
