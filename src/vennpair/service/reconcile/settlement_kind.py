"""Settlements as operations."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from typing import Any
from uuid import UUID

from django.db.models import Count, QuerySet

from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations import kinds
from vennpair.service.operations.kinds import Reversal, StepRow
from vennpair.service.reconcile.actions.plan_undo import plan_undo
from vennpair.service.reconcile.actions.start_settling import SETTLE, start_undo
from vennpair.service.reconcile.models import SettleStep

_STATES = {
    SettleStep.State.PLANNED: kinds.PLANNED,
    SettleStep.State.DONE: kinds.DONE,
    SettleStep.State.MOVED: kinds.LEFT,
    SettleStep.State.FAILED: kinds.FAILED,
    SettleStep.State.STOPPED: kinds.STOPPED,
    SettleStep.State.UNDONE: kinds.UNDONE,
}


class SettlementKind:
    """Findings settled together, proposed, or taken back."""

    name, alone = SETTLE, SETTLE
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

    def steps(self, job: Job) -> QuerySet[SettleStep]:
        """Return the steps in order."""
        return job.settlement.steps.order_by("position")

    def row(self, job: Job, step: SettleStep) -> StepRow:
        """Return a step in the shape that all have."""
        title = ", ".join(part for part in (step.learner, step.item) if part)
        state = _STATES[SettleStep.State(step.state)]
        return StepRow(step.remedy, title, state, step.message, step.before, step.after)

    def counts(self, jobs: Iterable[Job]) -> Mapping[UUID, Mapping[str, int]]:
        """Return how many steps of each job are in which state."""
        found: dict[UUID, dict[str, int]] = defaultdict(dict)
        rows = SettleStep.objects.filter(settlement__job__in=[each.pk for each in jobs]).order_by()
        for key, state, count in rows.values_list("settlement__job", "state").annotate(Count("pk")):
            found[key][_STATES[SettleStep.State(state)]] = count
        return found

    def prepare_again(self, job: Job) -> int:
        """Let what failed or was not begun be tried; each step looks again before it writes."""
        left = job.settlement.steps.filter(
            state__in=[SettleStep.State.FAILED, SettleStep.State.STOPPED]
        )
        left.update(state=SettleStep.State.PLANNED, message="", done_at=None)
        return job.settlement.steps.filter(state=SettleStep.State.PLANNED).count()

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Return what undoing would write. Raises Refused."""
        found = []
        for step in plan_undo(job.settlement):
            title = ", ".join(part for part in (step.learner, step.item) if part)
            found.append(Reversal(title, step.words.removeprefix(f"{title}: ")))
        return found

    def undo(self, job: Job, actor: Any) -> Job:
        """Begin the undoing. Raises Refused."""
        return start_undo(job.settlement, plan_undo(job.settlement), actor).job
