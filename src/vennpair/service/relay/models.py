"""The ledger of reported scores, and one cell per learner and placement with what was sent."""

from __future__ import annotations

from django.db import models


class LedgerEntry(models.Model):
    """One score as the publisher reported it. Append-only: never changed, never deleted."""

    placement = models.ForeignKey("deploy.Placement", models.PROTECT, related_name="ledger")
    learner = models.ForeignKey("pair.Learner", models.PROTECT, related_name="ledger")
    timestamp = models.DateTimeField()
    given = models.DecimalField(max_digits=16, decimal_places=6, null=True)
    maximum = models.DecimalField(max_digits=16, decimal_places=6, null=True)
    activity = models.CharField(max_length=20)
    grading = models.CharField(max_length=20)
    comment = models.TextField(blank=True)
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["placement", "learner", "-timestamp"])]


class Cell(models.Model):
    """Where a learner's score in one column stands between the two sides."""

    class State(models.TextChoices):
        EMPTY = "empty"
        WAITING = "waiting"
        SENDING = "sending"
        ACCEPTED = "accepted"
        REFUSED = "refused"
        HELD = "held"
        CLASH = "clash"  # somebody typed there; a person chooses

    placement = models.ForeignKey("deploy.Placement", models.PROTECT, related_name="cells")
    learner = models.ForeignKey("pair.Learner", models.PROTECT, related_name="cells")
    state = models.CharField(max_length=10, choices=State, default=State.EMPTY)
    reason = models.CharField(max_length=500, blank=True)
    remedy = models.CharField(max_length=500, blank=True)
    tries = models.IntegerField(default=0)
    next_try = models.DateTimeField(null=True)
    force = models.BooleanField(default=False)
    sent_given = models.DecimalField(max_digits=16, decimal_places=6, null=True)
    sent_maximum = models.DecimalField(max_digits=16, decimal_places=6, null=True)
    sent_timestamp = models.DateTimeField(null=True)
    sent_at = models.DateTimeField(null=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["placement", "learner"], name="one_cell_per_learner")]
        indexes = [models.Index(fields=["state", "next_try"])]
