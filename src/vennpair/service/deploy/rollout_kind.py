"""Rollouts as operations."""

from __future__ import annotations

from typing import Any

from django.db.models import Q, QuerySet

from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.undo_rollout import plan_undo, start_undo
from vennpair.service.deploy.models import Rollout, Step
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.kinds import Kind, Reversal, StepRow
from vennpair.service.operations.steps import AGAIN

_SAYS = {
    Rollout.Purpose.DEPLOY: "Placing items",
    Rollout.Purpose.ORDER: "Putting links and columns in order",
    Rollout.Purpose.TAKE_BACK: "Taking links back",
    Rollout.Purpose.MEND: "Putting links right",
    Rollout.Purpose.UNDO: "Undoing a rollout",
}
_DOES = {
    "folder": "make the folder",
    "link": "place the link",
    "column": "make the column",
    "change_link": "change the link",
    "change_column": "change the column",
    "remove_link": "remove the link",
    "remove_column": "remove the column",
    "remove_folder": "remove the folder",
    "show_folders": "show the folders around",
    "page": "add the links to the page",
    "order": "put the folder in order",
    "gradebook": "put the gradebook in order",
}


class RolloutKind(Kind):
    """Items placed, changed, put in order or taken back."""

    name, alone, step = "rollout", "rollout", Step
    busy = (
        "rollout_running",
        "A rollout of this pairing is under way ({done} of {total}).",
        "Wait until it is done; nothing needs to be clicked again.",
    )

    def says(self, job: Job) -> str:
        """Return what it does."""
        return _SAYS[Rollout.Purpose(job.rollout.purpose)]

    def subject(self, job: Job) -> str:
        """Return the rollout's id."""
        return str(job.rollout.pk)

    def link(self, job: Job) -> str:
        """Return where the console shows it."""
        return f"/pairings/{job.pairing_id}/deploy/rollouts"

    def steps(self, job: Job) -> QuerySet[Step]:
        """Return the steps in order, with what they change."""
        return job.deploy_steps.select_related("placement").order_by("position")

    def row(self, step: Step) -> StepRow:
        """Return a step in the shape that all have."""
        return StepRow(_DOES.get(step.kind, step.kind), step.title, step.state, step.message)

    def prepare_again(self, job: Job) -> int:
        """Let what is left be done again, and note what another rollout has placed since."""
        left = job.deploy_steps.filter(state__in=AGAIN)
        since = Q(kind="link", placement__state=Placement.State.PLACED) | Q(kind="column") & ~Q(
            placement__column_url=""
        )
        placed = list(left.filter(since).values_list("pk", flat=True))
        Step.objects.filter(pk__in=placed).update(
            state=Step.State.DONE, message="Another rollout has placed it since."
        )
        Placement.objects.filter(steps__in=left, state=Placement.State.FAILED).update(
            state=Placement.State.PLANNED
        )
        return super().prepare_again(job)

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Return what undoing would do with each link. Raises Refused, OutsideError."""
        return [
            Reversal(each.placement.title, each.does, each.why) for each in plan_undo(job.rollout)
        ]

    def undo(self, job: Job, actor: Any) -> Job:
        """Begin the undoing. Raises Refused, OutsideError."""
        return start_undo(job.rollout, actor).job
