"""Sending a total to its column, as an operation."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any
from uuid import UUID

from django.db.models import QuerySet

from vennpair.service.deploy.actions.average_column import SEND
from vennpair.service.deploy.models import Step
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations import kinds
from vennpair.service.operations.kinds import Reversal, StepRow


class TotalsKind:
    """Totals sent to a column of their own. Its single writes are not kept: sent twice it changes
    nothing, and what a person typed is left alone.
    """

    name, alone, busy = SEND, "", ("", "", "")

    def says(self, job: Job) -> str:
        """Return what it does."""
        return "Sending totals"

    def subject(self, job: Job) -> str:
        """Return the job's own id."""
        return str(job.pk)

    def link(self, job: Job) -> str:
        """Return where the console shows it."""
        return f"/pairings/{job.pairing_id}/deploy/standing"

    def steps(self, job: Job) -> QuerySet[Any]:
        """Return none: they are not kept."""
        return Step.objects.none()

    def row(self, job: Job, step: Any) -> StepRow:
        """Refuse."""
        raise AssertionError("the single writes of totals are not kept")

    def counts(self, jobs: Iterable[Job]) -> Mapping[UUID, Mapping[str, int]]:
        """Return how many totals were sent, as the job counts them."""
        return {each.pk: {kinds.DONE: each.done} for each in jobs if each.done}

    def prepare_again(self, job: Job) -> int:
        """Let all of it be sent again where it did not end well."""
        return 1 if job.state in {Job.State.FAILED, Job.State.CANCELLED} else 0

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Refuse."""
        raise _not_undone()

    def undo(self, job: Job, actor: Any) -> Job:
        """Refuse."""
        raise _not_undone()


def _not_undone() -> Refused:
    return Refused(
        "not_undone",
        "Totals that were sent are not taken back.",
        "Delete the column of the total in the gradebook if it should not be there.",
        409,
    )
