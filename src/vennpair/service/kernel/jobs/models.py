"""Long work with progress."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models


class Job(models.Model):
    """Work that takes longer than a request; the queue's own job only carries this row's id."""

    class State(models.TextChoices):
        QUEUED = "queued"
        RUNNING = "running"
        WAITING = "waiting"  # for the other side, tried again by itself
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    kind = models.CharField(max_length=30)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="jobs")
    state = models.CharField(max_length=10, choices=State, default=State.QUEUED)
    done = models.IntegerField(default=0)
    total = models.IntegerField(default=0)
    message = models.CharField(max_length=500, blank=True)
    remedy = models.CharField(max_length=500, blank=True)
    tries = models.IntegerField(default=0)
    cancel_asked = models.BooleanField(default=False)
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )
    made_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["pairing", "-made_at"]), models.Index(fields=["state"])]

    @property
    def unfinished(self) -> bool:
        """Say whether there is still something to do."""
        return self.state in {self.State.QUEUED, self.State.RUNNING, self.State.WAITING}
