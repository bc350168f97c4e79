"""The ledger of reported scores, one cell per learner and placement with what became of it, and the
rules of a relay.
"""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.db.models import Q


class LedgerEntry(models.Model):
    """One score as the publisher reported it. Append-only: never changed, never deleted.

    ``digest`` stands for all that the report says, so that the very same one again is known;
    ``submitted_at`` is when the attempt was handed in, where the publisher tells.
    """

    class Via(models.TextChoices):
        PUSH = "push"  # AGS
        OUTCOMES = "outcomes"  # Basic Outcomes
        PULL = "pull"  # OneRoster
        FILE = "file"

    pairing = models.ForeignKey("pair.Pairing", models.PROTECT, related_name="ledger")
    placement = models.ForeignKey("content.Placement", models.PROTECT, related_name="ledger")
    learner = models.ForeignKey("pair.Learner", models.PROTECT, related_name="ledger")
    via = models.CharField(max_length=10, choices=Via, default=Via.PUSH)
    timestamp = models.DateTimeField()
    given = models.DecimalField(max_digits=16, decimal_places=6, null=True)
    maximum = models.DecimalField(max_digits=16, decimal_places=6, null=True)
    activity = models.CharField(max_length=20)
    grading = models.CharField(max_length=20)
    comment = models.TextField(blank=True)
    submitted_at = models.DateTimeField(null=True)
    digest = models.CharField(max_length=40)
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["placement", "learner", "timestamp", "digest"], name="one_entry_per_report"
            )
        ]
        indexes = [models.Index(fields=["pairing", "received_at"])]


class Cell(models.Model):
    """Where a learner's score in one column is on its way between the two sides.

    ``why`` is what a held cell waits for; ``until`` when it is looked at again, none where a person
    must act. ``revision`` counts what came in, so that whoever settles a call sees that something
    newer did.
    """

    class State(models.TextChoices):
        EMPTY = "empty"
        WAITING = "waiting"
        SENDING = "sending"
        ACCEPTED = "accepted"
        REFUSED = "refused"
        HELD = "held"
        CLASH = "clash"  # somebody typed there; a person chooses
        WITHDRAWN = (
            "withdrawn"  # the publisher took back what we sent; a comparison asks what to do
        )

    class Again(models.TextChoices):
        DIFFERS = (
            "differs"  # the gradebook shows something else; what a person typed is still guarded
        )
        FORCE = "force"  # whatever is there

    pairing = models.ForeignKey("pair.Pairing", models.PROTECT, related_name="cells")
    placement = models.ForeignKey("content.Placement", models.PROTECT, related_name="cells")
    learner = models.ForeignKey("pair.Learner", models.PROTECT, related_name="cells")
    state = models.CharField(max_length=10, choices=State, default=State.EMPTY)
    why = models.CharField(max_length=20, blank=True)
    reason = models.CharField(max_length=500, blank=True)
    remedy = models.CharField(max_length=500, blank=True)
    until = models.DateTimeField(null=True)
    since = models.DateTimeField(null=True)  # since when the newest report waits
    tries = models.IntegerField(default=0)
    failing_since = models.DateTimeField(null=True)
    again = models.CharField(
        max_length=10, choices=Again, blank=True
    )  # sent although it was accepted before
    revision = models.IntegerField(default=1)
    in_doubt = models.BooleanField(
        default=False
    )  # something may be there that was sent and whose answer was lost
    status_sent = models.CharField(
        max_length=50, blank=True
    )  # the progress that was told without a score
    sent_given = models.DecimalField(max_digits=16, decimal_places=6, null=True)
    sent_maximum = models.DecimalField(max_digits=16, decimal_places=6, null=True)
    sent_timestamp = models.DateTimeField(null=True)
    sent_at = models.DateTimeField(null=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["placement", "learner"], name="one_cell_per_learner")
        ]
        indexes = [
            models.Index(fields=["state", "until"]),
            models.Index(fields=["pairing", "-changed_at"]),
            models.Index(
                fields=["pairing", "placement"],
                condition=Q(state__in=["waiting", "sending"]),
                name="cells_on_their_way",
            ),
        ]

    @property
    def forced(self) -> bool:
        """Say whether it is to be sent whatever is there."""
        return self.again == self.Again.FORCE


class Passage(models.Model):
    """What became of a cell's score at one moment: one line of its story. Append-only.

    ``lag_ms`` is the time from the report's arrival to the platform's acceptance, in milliseconds.
    """

    class What(models.TextChoices):
        ACCEPTED = "accepted"
        REFUSED = "refused"
        FAILED = "failed"  # to be tried again
        CLASH = "clash"
        CHECKED = "checked"  # read back, and it is there
        TOLD = "told"  # progress without a score
        AGAIN = "again"  # somebody asked for it to be sent again
        RELEASED = "released"
        SETTLED = "settled"  # from a comparison, by somebody's choice

    pairing = models.ForeignKey("pair.Pairing", models.PROTECT, related_name="passages")
    cell = models.ForeignKey(Cell, models.PROTECT, related_name="passages")
    entry = models.ForeignKey(LedgerEntry, models.PROTECT, null=True, related_name="passages")
    what = models.CharField(max_length=10, choices=What)
    at = models.DateTimeField()
    given = models.DecimalField(max_digits=16, decimal_places=6, null=True)
    maximum = models.DecimalField(max_digits=16, decimal_places=6, null=True)
    lag_ms = models.IntegerField(null=True)
    words = models.CharField(max_length=500, blank=True)

    class Meta:
        indexes = [models.Index(fields=["cell", "id"]), models.Index(fields=["pairing", "at"])]


class RelayRule(models.Model):
    """What a pairing's rule changes for all, for a category or for an item.

    ``changes`` holds those fields only.
    """

    class Scope(models.TextChoices):
        ALL = "all"
        CATEGORY = "category"
        ITEM = "item"

    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="relay_rules")
    scope = models.CharField(max_length=10, choices=Scope)
    key = models.CharField(max_length=255, blank=True)  # the category's title, or the item's id
    changes = models.JSONField(default=dict)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["pairing", "scope", "key"], name="one_rule_per_scope")
        ]


class Release(models.Model):
    """An instructor let go what was held of a placement; what had come by then may be sent."""

    placement = models.ForeignKey("content.Placement", models.CASCADE, related_name="releases")
    at = models.DateTimeField()
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )

    class Meta:
        indexes = [models.Index(fields=["placement", "-at"])]


class Stray(models.Model):
    """A report for an account that no learner of the shell is known to have.

    It goes to the ledger once somebody says whose it is.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    placement = models.ForeignKey("content.Placement", models.CASCADE, related_name="strays")
    account = models.CharField(max_length=255)
    name = models.CharField(max_length=200, blank=True)
    email = models.CharField(max_length=254, blank=True)
    report = models.JSONField(default=dict)
    digest = models.CharField(max_length=40)
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["placement", "account", "digest"], name="one_stray_per_report"
            )
        ]


class RelaySetting(models.Model):
    """How a pairing's relay is watched and fed: minutes until a waiting score raises the alarm.

    How often results are read.
    """

    pairing = models.OneToOneField("pair.Pairing", models.CASCADE, related_name="relay_setting")
    alarm_minutes = models.IntegerField(default=60)
    alarmed_at = models.DateTimeField(null=True)
    pull_minutes = models.IntegerField(default=0)  # 0: the publisher reports automatically
    pull_cursor = models.CharField(
        max_length=40, blank=True
    )  # the newest dateLastModified that was read
    pulled_at = models.DateTimeField(null=True)
    pull_trouble = models.CharField(max_length=500, blank=True)


class PlatformPace(models.Model):
    """How fast a platform is written to, as all workers have learned it (core/relay/pace.py)."""

    platform = models.OneToOneField("connect.Platform", models.CASCADE, related_name="pace")
    width = models.FloatField(default=32)
    closed_until = models.DateTimeField(null=True)
    down_since = models.DateTimeField(null=True)
    failures = models.IntegerField(default=0)
    reason = models.CharField(max_length=500, blank=True)
    alarmed_at = models.DateTimeField(null=True)
    changed_at = models.DateTimeField(auto_now=True)
