"""Imports of cartridges, and the items read from them."""

from __future__ import annotations

import uuid

from django.db import models


class Import(models.Model):
    """One reading of a cartridge for a pairing; ``file`` holds an upload until it is read."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="imports")
    job = models.OneToOneField("ops.Job", models.CASCADE, related_name="import_of")
    source = models.CharField(max_length=20)
    filename = models.CharField(max_length=300, blank=True)
    file = models.BinaryField(null=True)
    sha256 = models.CharField(max_length=64, blank=True)
    title = models.CharField(max_length=500, blank=True)
    version = models.CharField(max_length=10, blank=True)
    counts = models.JSONField(default=dict)
    findings = models.JSONField(default=list)
    report = models.JSONField(default=dict)


class Item(models.Model):
    """An item of a pairing's homework course. ``due_date`` is ISO 8601 with its zone, as the publisher wrote it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="items")
    key = models.CharField(max_length=255)
    title = models.CharField(max_length=1000)
    shown_title = models.CharField(max_length=1000)
    kind = models.CharField(max_length=20)
    unit = models.CharField(max_length=500, blank=True)
    position = models.IntegerField()
    audience = models.CharField(max_length=20, default="everyone")
    url = models.CharField(max_length=2000, blank=True)
    custom = models.JSONField(default=dict)
    line_item = models.CharField(max_length=255, blank=True)
    points = models.DecimalField(max_digits=14, decimal_places=4, null=True)
    due_date = models.CharField(max_length=40, blank=True)
    category = models.CharField(max_length=255, blank=True)
    reason = models.CharField(max_length=200, blank=True)
    gone = models.BooleanField(default=False)

    class Meta:
        ordering = ["position", "id"]
        constraints = [models.UniqueConstraint(fields=["pairing", "key"], name="one_item_per_key")]
