"""Deliveries as operations: content brought into a shell, or taken out of it again."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet

from vennpair.service.content.actions.start_delivery import DELIVERY, UNDO
from vennpair.service.content.actions.undo_delivery import plan_undo, start_undo
from vennpair.service.content.models import DeliveryStep, Entry, Import
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.kinds import Kind, Reversal, StepRow
from vennpair.service.operations.steps import AGAIN

_DOES = {
    DeliveryStep.Kind.FOLDER: "make the folder",
    DeliveryStep.Kind.MAKE: "bring in",
    DeliveryStep.Kind.UPDATE: "update",
    DeliveryStep.Kind.COLUMN: "make the column",
    DeliveryStep.Kind.LEAVE: "leave as it is",
    DeliveryStep.Kind.REMOVE: "take out",
    DeliveryStep.Kind.REMOVE_FOLDER: "remove the folder",
    DeliveryStep.Kind.SHOW: "show to learners again",
}
_BUSY = (
    "delivery_running",
    "Content is being brought into this shell ({done} of {total}).",
    "Wait until it is done, or cancel it; nothing needs to be clicked again.",
)


class _OfDelivery(Kind):
    """What bringing in and taking out have in common."""

    alone, busy, step = DELIVERY, _BUSY, DeliveryStep

    def subject(self, job: Job) -> str:
        """Return the delivery's id."""
        return str(job.delivery.pk)

    def link(self, job: Job) -> str:
        """Return where the console shows it."""
        return f"/pairings/{job.pairing_id}/content/imports/{job.delivery.import_of_id}"

    def steps(self, job: Job) -> QuerySet[DeliveryStep]:
        """Return the steps in order, with what they change."""
        return job.content_steps.select_related("entry").order_by("position")

    def row(self, step: DeliveryStep) -> StepRow:
        """Return a step in the shape that all have."""
        does = _DOES[DeliveryStep.Kind(step.kind)]
        return StepRow(does, step.title, step.state, step.message)


class DeliveryKind(_OfDelivery):
    """Entries of a cartridge or catalogue brought into the shell."""

    name = DELIVERY

    def says(self, job: Job) -> str:
        """Return what it does."""
        return "Bringing content in"

    def prepare_again(self, job: Job) -> int:
        """Let entries that failed or were not begun be brought in."""
        left = job.content_steps.filter(state__in=AGAIN)
        again = left.filter(kind__in=[DeliveryStep.Kind.MAKE, DeliveryStep.Kind.UPDATE])
        Entry.objects.filter(steps__in=again).update(state=Entry.State.WAITING, message="")
        if left.exists():
            Import.objects.filter(pk=job.delivery.import_of_id).update(stage=Import.Stage.IMPORTING)
        return super().prepare_again(job)

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Return what undoing would do with each entry. Raises Refused, OutsideError."""
        return [
            Reversal(
                each.entry.shown_title,
                "show again" if each.shows else "take out",
                each.why,
                each.shows,
            )
            for each in plan_undo(job.delivery)
        ]

    def undo(self, job: Job, actor: Any) -> Job:
        """Begin the undoing. Raises Refused, OutsideError."""
        return start_undo(job.delivery, actor).job


class TakingOutKind(_OfDelivery):
    """A delivery taken out of the shell again."""

    name = UNDO

    def says(self, job: Job) -> str:
        """Return what it does."""
        return "Taking content out again"

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Refuse."""
        raise _not_undone()

    def undo(self, job: Job, actor: Any) -> Job:
        """Refuse."""
        raise _not_undone()


def _not_undone() -> Refused:
    return Refused(
        "not_undone",
        "Taking content out cannot be undone.",
        "Bring it in again from the import.",
        409,
    )
