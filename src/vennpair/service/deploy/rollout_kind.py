"""Rollouts as operations."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from typing import Any
from uuid import UUID

from django.db.models import Count, Q, QuerySet

from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.undo_rollout import plan_undo, start_undo
from vennpair.service.deploy.models import Rollout, Step
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations import kinds
from vennpair.service.operations.kinds import Reversal, StepRow

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
_STATES = {
    Step.State.PENDING: kinds.PLANNED,
    Step.State.DONE: kinds.DONE,
    Step.State.FAILED: kinds.FAILED,
    Step.State.CANCELLED: kinds.STOPPED,
}


class RolloutKind:
    """Items placed, changed, put in order or taken back."""

    name, alone = "rollout", "rollout"
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
        """Return the steps in order."""
        return job.rollout.steps.select_related("placement").order_by("position")

    def row(self, job: Job, step: Step) -> StepRow:
        """Return a step in the shape that all have."""
        title = step.placement.title if step.placement else str(step.facts.get("title", ""))
        state = _STATES[Step.State(step.state)]
        return StepRow(_DOES.get(step.kind, step.kind), title, state, step.message)

    def counts(self, jobs: Iterable[Job]) -> Mapping[UUID, Mapping[str, int]]:
        """Return how many steps of each job are in which state."""
        found: dict[UUID, dict[str, int]] = defaultdict(dict)
        rows = Step.objects.filter(rollout__job__in=[each.pk for each in jobs]).order_by()
        for key, state, count in rows.values_list("rollout__job", "state").annotate(Count("pk")):
            found[key][_STATES[Step.State(state)]] = count
        return found

    def prepare_again(self, job: Job) -> int:
        """Let what is left be done again, and note what another rollout has placed since."""
        left = job.rollout.steps.filter(state__in=[Step.State.FAILED, Step.State.CANCELLED])
        since = Q(kind="link", placement__state=Placement.State.PLACED) | Q(kind="column") & ~Q(
            placement__column_url=""
        )
        placed = list(left.filter(since).values_list("pk", flat=True))
        Step.objects.filter(pk__in=placed).update(
            state=Step.State.DONE, message="Another rollout has placed it since."
        )
        keys = list(left.values_list("pk", flat=True))
        Placement.objects.filter(steps__in=keys, state=Placement.State.FAILED).update(
            state=Placement.State.PLANNED
        )
        Step.objects.filter(pk__in=keys).update(state=Step.State.PENDING, message="")
        return len(keys)

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Return what undoing would do with each link. Raises Refused, OutsideError."""
        return [
            Reversal(each.placement.title, each.does, each.why) for each in plan_undo(job.rollout)
        ]

    def undo(self, job: Job, actor: Any) -> Job:
        """Begin the undoing. Raises Refused, OutsideError."""
        return start_undo(job.rollout, actor).job
