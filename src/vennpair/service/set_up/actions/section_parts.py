"""The parts of a section: each a job of its own, run in this worker, and what came of them."""

from __future__ import annotations

import time
from typing import Any

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.service.content.models import Placement
from vennpair.service.deploy.models import Step
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked, run
from vennpair.service.set_up.models import Section

LOOK_SECONDS = 0.2  # between looks at a part that another worker carries out
AGAIN_SECONDS = 2.0  # until a part that waits for the other side is looked at again


def section_of(job: Job) -> Section:
    """Return the section that a job carries out, with what its parts need."""
    return Section.objects.select_related(
        "shell", "set_up__made_by", "pairing__shell__platform__institution", "placing", "total"
    ).get(job=job)


def begun(job: Job, **what: Any) -> Job | None:
    """Return a part that was begun in the course of a section and, as the worker was killed just
    then, was not noted.
    """
    own = Job.objects.filter(pairing=job.pairing_id, made_at__gt=job.made_at, **what)
    return own.order_by("made_at").first()


def carry_out_part(job: Job, part: Job | None) -> None:
    """Carry out a part in this worker, unless it has ended; the queue's own call then finds nothing
    left to do.
    """
    if part is not None:
        run_part(part)
    if cancel_asked(job):
        raise Cancelled("Stopped; what was done stays.")


def run_part(part: Job) -> None:
    """Run a part, or wait while another worker does; whoever is killed leaves it to the other.

    Raises OutsideError where it waits for the other side, Cancelled, Refused.
    """
    while True:
        run(str(part.pk))
        part.refresh_from_db()
        if not part.unfinished or part.state == Job.State.WAITING:
            break
        time.sleep(LOOK_SECONDS)
    if part.unfinished:
        raise OutsideError(
            Failure(FailureKind.LATER, "part_waits", part.message, part.remedy, AGAIN_SECONDS)
        )
    if part.state == Job.State.CANCELLED:
        raise Cancelled(part.message)
    if part.state == Job.State.FAILED:
        raise Refused("part_failed", part.message, part.remedy)


def placed_of(section: Section) -> list[str]:
    """Return the placements that the set-up placed in a section and that still are there."""
    rows = Placement.objects.filter(
        steps__job=section.placing_id, steps__kind="link", state=Placement.State.PLACED
    ).distinct()
    return [str(each) for each in rows.values_list("pk", flat=True)] if section.placing_id else []


def counts_of(section: Section) -> tuple[int, int]:
    """Return how many links were placed, and how many steps were not done."""
    if section.placing_id is None:
        return 0, 0
    failed = Step.objects.filter(job=section.placing_id, state=Step.State.FAILED).count()
    return len(placed_of(section)), failed
