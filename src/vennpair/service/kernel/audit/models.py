"""The audit trail."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class Event(models.Model):
    """One thing that was done: who, what, to what, before and after. Never changed, never
    deleted. ``who`` is the name of the actor then, empty for the service itself. ``number`` and
    ``seal`` are its place in the institution's chain (``sealing.py``), empty until it is in it.
    ``request`` is the id of the request that did it, as in the log.
    """

    at = models.DateTimeField(auto_now_add=True)
    actor = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )
    institution = models.ForeignKey("connect.Institution", models.CASCADE, related_name="+")
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, null=True, related_name="events")
    verb = models.CharField(max_length=60)
    sentence = models.CharField(max_length=400)
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)
    who = models.CharField(max_length=150, blank=True, default="", db_default="")
    number = models.BigIntegerField(null=True)
    seal = models.CharField(max_length=64, blank=True, default="", db_default="")
    request = models.CharField(max_length=64, blank=True, default="", db_default="")

    class Meta:
        indexes = [
            models.Index(fields=["pairing", "-id"]),
            models.Index(fields=["institution", "-id"], name="events_of_institution"),
        ]
        constraints = [
            models.UniqueConstraint(fields=["institution", "number"], name="one_event_per_number")
        ]


class Notice(models.Model):
    """A word to one person that something is ready or needs them.

    ``link`` leads to it in the console, ``body`` is what its mail says more.
    """

    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="notices")
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, null=True, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    sentence = models.CharField(max_length=400)
    body = models.TextField(blank=True)
    link = models.CharField(max_length=300, blank=True)
    read_at = models.DateTimeField(null=True)
    mailed_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["user", "-id"])]
