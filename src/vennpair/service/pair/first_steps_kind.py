"""Placing the first-steps page, as an operation."""

from __future__ import annotations

from typing import Any

from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.kinds import Kind, Reversal, StepRow
from vennpair.service.pair.actions.place_first_steps import FIRST_STEPS, plan_undo, start_undo
from vennpair.service.pair.models import ShellStep


class FirstStepsKind(Kind):
    """What learners are told first, as a page of the shell."""

    name, alone, step = FIRST_STEPS, FIRST_STEPS, ShellStep
    busy = (
        "first_steps_running",
        "The first-steps page of this shell is being placed already.",
        "Wait a moment; nothing needs to be clicked again.",
    )

    def says(self, job: Job) -> str:
        """Return what it does."""
        return "Undoing the first-steps page" if job.undoes_id else "Placing the first-steps page"

    def subject(self, job: Job) -> str:
        """Return the job's own id."""
        return str(job.pk)

    def link(self, job: Job) -> str:
        """Return where the console shows it."""
        return f"/pairings/{job.pairing_id}"

    def row(self, step: ShellStep) -> StepRow:
        """Return a step in the shape that all have."""
        does = "place the page" if step.kind == ShellStep.Kind.PLACE else "take the page out"
        return StepRow(does, step.title, step.state, step.message)

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Return what undoing would do with the page. Raises OutsideError."""
        step = ShellStep.objects.get(job=job)
        does = "put back as it was" if step.before else "take out"
        return [Reversal(step.title, does, plan_undo(job))]

    def undo(self, job: Job, actor: Any) -> Job:
        """Begin the undoing. Raises Refused, OutsideError."""
        return start_undo(job, actor)
