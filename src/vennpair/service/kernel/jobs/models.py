"""Long work with progress."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models


class Job(models.Model):
    """Work that takes longer than a request; the queue's own job only carries this row's id.

    Of one ``alone`` a pairing has one at a time. Jobs of several pairings that were asked for
    together share a ``batch``; ``undoes`` is the job whose writes this one takes back. ``starts``
    counts how often it was begun with ``done`` at ``stood_at`` and came to no end: each time its
    worker was killed, perhaps by it.
    """

    class State(models.TextChoices):
        PROPOSED = "proposed"  # until somebody who may carries it out
        QUEUED = "queued"
        RUNNING = "running"
        WAITING = "waiting"  # for the other side, tried again automatically
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"
        DISMISSED = "dismissed"  # a proposal that was put aside

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
    starts = models.IntegerField(default=0, db_default=0)
    stood_at = models.IntegerField(default=-1, db_default=-1)
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )
    batch = models.UUIDField(null=True, db_index=True)
    undoes = models.ForeignKey("self", models.SET_NULL, null=True, related_name="undone_by")
    alone = models.CharField(max_length=20, blank=True, default="", db_default="")
    made_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["pairing", "-made_at"]), models.Index(fields=["state"])]
        constraints = [
            models.UniqueConstraint(
                fields=["pairing", "alone"],
                condition=~models.Q(alone="")
                & models.Q(state__in=["queued", "running", "waiting"]),
                name="one_of_a_kind_at_a_time",
            )
        ]

    @property
    def unfinished(self) -> bool:
        """Say whether there is still something to do."""
        return self.state in UNFINISHED


UNFINISHED = [Job.State.QUEUED, Job.State.RUNNING, Job.State.WAITING]
