"""Deliveries as operations: content brought into a shell, or taken out of it again."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from typing import Any
from uuid import UUID

from django.db.models import Count, QuerySet

from vennpair.service.content.actions.start_delivery import DELIVERY, UNDO
from vennpair.service.content.actions.undo_delivery import plan_undo, start_undo
from vennpair.service.content.models import Delivery, Entry, Import
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations import kinds
from vennpair.service.operations.kinds import Reversal, StepRow

_STATES = {
    Entry.State.UNTOUCHED: kinds.STOPPED,
    Entry.State.WAITING: kinds.PLANNED,
    Entry.State.IN_FLIGHT: kinds.RUNNING,
    Entry.State.LINKED: kinds.RUNNING,
    Entry.State.MADE: kinds.DONE,
    Entry.State.UPDATED: kinds.DONE,
    Entry.State.SAME: kinds.LEFT,
    Entry.State.KEPT: kinds.LEFT,
    Entry.State.LEFT_OUT: kinds.LEFT,
    Entry.State.FAILED: kinds.FAILED,
    Entry.State.REMOVED: kinds.UNDONE,
}
_BUSY = (
    "delivery_running",
    "Content is being brought into this shell ({done} of {total}).",
    "Wait until it is done, or cancel it; nothing needs to be clicked again.",
)


class DeliveryKind:
    """Entries of a cartridge or catalogue brought into the shell."""

    name, alone, busy = DELIVERY, DELIVERY, _BUSY

    def says(self, job: Job) -> str:
        """Return what it does."""
        return "Bringing content in"

    def subject(self, job: Job) -> str:
        """Return the delivery's id."""
        return str(job.delivery.pk)

    def link(self, job: Job) -> str:
        """Return where the console shows it."""
        return f"/pairings/{job.pairing_id}/content/imports/{job.delivery.import_of_id}"

    def steps(self, job: Job) -> QuerySet[Entry]:
        """Return the entries in reading order."""
        return job.delivery.entries.order_by("position")

    def row(self, job: Job, step: Entry) -> StepRow:
        """Return an entry in the shape that all steps have."""
        does = {"make": "bring in", "update": "update"}.get(step.action, "leave as it is")
        state = _STATES[Entry.State(step.state)]
        return StepRow(does, step.shown_title, state, step.message)

    def counts(self, jobs: Iterable[Job]) -> Mapping[UUID, Mapping[str, int]]:
        """Return how many entries of each job are in which state."""
        found: dict[UUID, dict[str, int]] = defaultdict(lambda: defaultdict(int))
        rows = Entry.objects.filter(delivery__job__in=[each.pk for each in jobs]).order_by()
        for key, state, count in rows.values_list("delivery__job", "state").annotate(Count("pk")):
            found[key][_STATES[Entry.State(state)]] += count
        return found

    def prepare_again(self, job: Job) -> int:
        """Let entries that failed or were not begun be brought in."""
        left = job.delivery.entries.filter(
            state__in=[Entry.State.FAILED, Entry.State.UNTOUCHED], action__in=["make", "update"]
        )
        count = left.update(state=Entry.State.WAITING, message="")
        if count:
            Import.objects.filter(pk=job.delivery.import_of_id).update(stage=Import.Stage.IMPORTING)
        return count

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Return what undoing would do with each entry. Raises Refused, OutsideError."""
        return [
            Reversal(each.entry.shown_title, "take out", each.why)
            for each in plan_undo(job.delivery)
        ]

    def undo(self, job: Job, actor: Any) -> Job:
        """Begin the undoing. Raises Refused, OutsideError."""
        return start_undo(job.delivery, actor).job


class TakingOutKind:
    """A delivery taken out of the shell again."""

    name, alone, busy = UNDO, DELIVERY, _BUSY

    def says(self, job: Job) -> str:
        """Return what it does."""
        return "Taking content out again"

    def subject(self, job: Job) -> str:
        """Return the delivery's id."""
        return str(job.delivery.pk)

    def link(self, job: Job) -> str:
        """Return where the console shows it."""
        return f"/pairings/{job.pairing_id}/content/imports/{job.delivery.import_of_id}"

    def steps(self, job: Job) -> QuerySet[Entry]:
        """Return the entries that the other brought in or that were taken out of it."""
        return _undone(job).entries.filter(action="make").order_by("position")

    def row(self, job: Job, step: Entry) -> StepRow:
        """Return an entry in the shape that all steps have."""
        state = kinds.DONE if step.state == Entry.State.REMOVED else kinds.LEFT
        if job.unfinished and state == kinds.LEFT:
            state = kinds.PLANNED
        return StepRow("take out", step.shown_title, state, step.message)

    def counts(self, jobs: Iterable[Job]) -> Mapping[UUID, Mapping[str, int]]:
        """Return how many entries were taken out."""
        return {each.pk: {kinds.DONE: each.done} for each in jobs}

    def prepare_again(self, job: Job) -> int:
        """Let what is still there be looked at again."""
        return _undone(job).made.exclude(node="").count()

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Refuse."""
        raise _not_undone()

    def undo(self, job: Job, actor: Any) -> Job:
        """Refuse."""
        raise _not_undone()


def _undone(job: Job) -> Delivery:
    return Delivery.objects.get(job=job.undoes_id)


def _not_undone() -> Refused:
    return Refused(
        "not_undone",
        "Taking content out cannot be undone.",
        "Bring it in again from the import.",
        409,
    )
