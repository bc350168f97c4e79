"""Sending a total to its column, as an operation."""

from __future__ import annotations

from typing import Any

from vennpair.service.deploy.actions.send_totals import SEND
from vennpair.service.deploy.models import Step
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.kinds import Kind, Reversal, StepRow


class TotalsKind(Kind):
    """Totals sent to a column of their own."""

    name, step = SEND, Step

    def says(self, job: Job) -> str:
        """Return what it does."""
        return "Sending totals"

    def subject(self, job: Job) -> str:
        """Return the job's own id."""
        return str(job.pk)

    def link(self, job: Job) -> str:
        """Return where the console shows it."""
        return f"/pairings/{job.pairing_id}/deploy/placed"

    def row(self, step: Step) -> StepRow:
        """Return a step in the shape that all have."""
        after = step.facts["given"] if step.state == Step.State.DONE else None
        return StepRow(
            "send the total", step.title, step.state, step.message, step.before.get("given"), after
        )

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Refuse."""
        raise _not_undone()

    def undo(self, job: Job, actor: Any) -> Job:
        """Refuse."""
        raise _not_undone()


def _not_undone() -> Refused:
    return Refused(
        "not_undone",
        "Totals that were sent are not removed.",
        "Delete the column of the total in the gradebook if it should not be there.",
        409,
    )
