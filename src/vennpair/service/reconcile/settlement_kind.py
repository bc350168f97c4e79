"""Settlements as operations."""

from __future__ import annotations

from typing import Any

from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.kinds import Kind, Reversal, StepRow
from vennpair.service.reconcile.actions.plan_undo import plan_undo
from vennpair.service.reconcile.actions.start_settling import SETTLE, start_undo
from vennpair.service.reconcile.models import SettleStep


class SettlementKind(Kind):
    """Findings settled together, proposed, or taken back."""

    name, alone, step = SETTLE, SETTLE, SettleStep
    busy = (
        "settling_already",
        "Findings of this pairing are being settled already ({done} of {total}).",
        "Wait until that is done, compare again, then settle the rest.",
    )

    def says(self, job: Job) -> str:
        """Return what it does."""
        return "Taking a settlement back" if job.undoes_id else "Settling findings"

    def subject(self, job: Job) -> str:
        """Return the settlement's id."""
        return str(job.settlement.pk)

    def link(self, job: Job) -> str:
        """Return where the console shows it."""
        return f"/pairings/{job.pairing_id}/reconcile"

    def row(self, step: SettleStep) -> StepRow:
        """Return a step in the shape that all have."""
        shown = step.title, step.state, step.message
        return StepRow(step.remedy, *shown, step.before, step.after)

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Return what undoing would write. Raises Refused."""
        return [
            Reversal(step.title, step.words.removeprefix(f"{step.title}: "))
            for step in plan_undo(job.settlement)
        ]

    def undo(self, job: Job, actor: Any) -> Job:
        """Begin the undoing. Raises Refused."""
        return start_undo(job.settlement, plan_undo(job.settlement), actor).job
