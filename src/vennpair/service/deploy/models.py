"""Placements, and the rollouts that make them."""

from __future__ import annotations

import uuid

from django.db import models


class Placement(models.Model):
    """An item put in a shell: an LTI resource link, with or without a column."""

    class State(models.TextChoices):
        PLANNED = "planned"
        WRITTEN = "written"  # in a cartridge that was written; known to stand in the shell once somebody opens it
        PLACED = "placed"
        FAILED = "failed"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="placements")
    item = models.OneToOneField("content.Item", models.CASCADE, related_name="placement")
    state = models.CharField(max_length=10, choices=State, default=State.PLANNED)
    title = models.CharField(max_length=1000)
    folder = models.CharField(max_length=500, blank=True)
    entry_id = models.CharField(max_length=255, blank=True)
    resource_link_id = models.CharField(max_length=255, blank=True, db_index=True)
    column_url = models.URLField(max_length=1000, blank=True)
    points = models.DecimalField(max_digits=14, decimal_places=4, null=True)
    due_date = models.CharField(max_length=40, blank=True)


class Rollout(models.Model):
    """One batch of placements being carried out."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="rollouts")
    job = models.OneToOneField("ops.Job", models.CASCADE, related_name="rollout")
    folder = models.CharField(max_length=500, blank=True)
    folder_id = models.CharField(max_length=255, blank=True)


class Step(models.Model):
    """One outside write of a rollout; its id is the write's idempotency key, so it survives restarts."""

    class State(models.TextChoices):
        PENDING = "pending"
        IN_FLIGHT = "in_flight"
        DONE = "done"
        FAILED = "failed"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    rollout = models.ForeignKey(Rollout, models.CASCADE, related_name="steps")
    position = models.IntegerField()
    kind = models.CharField(max_length=10)
    placement = models.ForeignKey(Placement, models.CASCADE, null=True, related_name="steps")
    visible = models.BooleanField(default=True)
    state = models.CharField(max_length=10, choices=State, default=State.PENDING)
    message = models.CharField(max_length=500, blank=True)

    class Meta:
        ordering = ["position"]
        constraints = [models.UniqueConstraint(fields=["rollout", "position"], name="one_step_per_position")]
