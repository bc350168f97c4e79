"""Comparisons and their findings."""

from __future__ import annotations

import uuid

from django.db import models


class Comparison(models.Model):
    """One comparison of a pairing. ``venn`` holds left, both and right of items, columns and scores."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="comparisons")
    job = models.OneToOneField("ops.Job", models.CASCADE, related_name="comparison")
    at = models.DateTimeField(null=True)
    summary = models.JSONField(default=dict)
    venn = models.JSONField(default=dict)
    matrix = models.JSONField(default=dict)

    class Meta:
        indexes = [models.Index(fields=["pairing", "-at"])]


class Finding(models.Model):
    """One difference with its cause; numbers are exact decimals as text."""

    comparison = models.ForeignKey(Comparison, models.CASCADE, related_name="findings")
    position = models.IntegerField()
    scope = models.CharField(max_length=10)  # cell, column or learner
    kind = models.CharField(max_length=30)
    level = models.CharField(max_length=10)
    side = models.CharField(max_length=10)  # left, both or right of the Venn
    item = models.CharField(max_length=1000, blank=True)
    learner = models.CharField(max_length=200, blank=True)
    email = models.CharField(max_length=254, blank=True)
    publisher = models.CharField(max_length=60, null=True)  # noqa: DJ001 - no score is not an empty one
    gradebook = models.CharField(max_length=60, null=True)  # noqa: DJ001
    sent = models.CharField(max_length=60, null=True)  # noqa: DJ001
    scaled = models.CharField(max_length=60, null=True)  # noqa: DJ001
    cause = models.TextField()
    remedies = models.JSONField(default=list)
    candidates = models.JSONField(default=list)

    class Meta:
        ordering = ["position", "id"]
        indexes = [models.Index(fields=["comparison", "position", "id"])]
