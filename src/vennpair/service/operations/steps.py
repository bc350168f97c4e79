"""The record of one outside write. Each app that writes has a table of its own for its steps, with
foreign keys to what they change; what all steps have is here.
"""

from __future__ import annotations

from typing import ClassVar

from django.db import models

from vennpair.service.kernel.jobs.models import Job


class StepState(models.TextChoices):
    """What may have become of a step."""

    PLANNED = "planned"
    DONE = "done"
    FAILED = "failed"
    STOPPED = "stopped"  # before it was begun
    LEFT = "left"  # nothing was written on purpose; the message says why
    UNDONE = "undone"


AGAIN = [StepState.FAILED, StepState.STOPPED]


class Step(models.Model):
    """One write of an operation, done at most once whoever carries it out how often.

    ``facts`` is what is written, for each kind in a shape of its own (``service/stored.py``);
    ``message`` says why it failed, was left or is tried again.
    """

    State: ClassVar[type[StepState]] = StepState

    job = models.ForeignKey(Job, models.CASCADE, related_name="%(app_label)s_steps")
    position = models.IntegerField()
    kind = models.CharField(max_length=30)
    facts = models.JSONField(default=dict)
    state = models.CharField(max_length=10, choices=StepState, default=StepState.PLANNED)
    message = models.CharField(max_length=500, blank=True)
    attempts = models.IntegerField(default=0, db_default=0)
    done_at = models.DateTimeField(null=True)

    class Meta:
        abstract = True
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(
                fields=["job", "position"], name="%(app_label)s_one_step_per_position"
            )
        ]

    @property
    def idempotency_key(self) -> str:
        """Return the key of its write, the same in every attempt."""
        return str(self.pk)


def stop_rest(steps: models.QuerySet[Step]) -> int:
    """Give up what was not begun, in the caller's transaction; return how many steps that are."""
    return steps.filter(state=StepState.PLANNED).update(
        state=StepState.STOPPED, message="Stopped before it was begun."
    )
