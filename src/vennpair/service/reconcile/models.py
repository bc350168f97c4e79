"""Comparisons and their findings, what was decided of them, and how they were settled."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.utils import timezone

from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations import steps as operations

# An exact decimal as text, or None: no score is not an empty one. What a side says of a column may
# be longer.
NUMBER, SAID = 60, 1000


class Comparisons(models.QuerySet["Comparison"]):
    """Comparisons of what both sides say, not of a file."""

    def live(self) -> Comparisons:
        """Leave out those with a file: they say nothing of how the pairing is doing."""
        return self.filter(given={})

    def done(self) -> Comparisons:
        """Return the finished ones, the newest first."""
        return self.live().filter(at__isnull=False).order_by("-at")


class Comparison(models.Model):
    """One comparison of a pairing; ``at`` is when it began to read. ``venn`` holds left, both and
    right of items, columns and scores.

    ``matrix`` holds a kind for each learner and column, ``shares`` two shares of the points,
    publisher first; ``sources`` says where each side was read, and when. ``given`` is the gradebook
    as a file that somebody gave for it said, empty where it was read.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="comparisons")
    job = models.OneToOneField("ops.Job", models.CASCADE, related_name="comparison")
    at = models.DateTimeField(null=True)
    summary = models.JSONField(default=dict)
    venn = models.JSONField(default=dict)
    matrix = models.JSONField(default=dict)
    shares = models.JSONField(default=list)
    sources = models.JSONField(default=list)
    given = models.JSONField(default=dict)

    objects = Comparisons.as_manager()

    class Meta:
        indexes = [models.Index(fields=["pairing", "-at"])]


class Schedule(models.Model):
    """When a pairing is compared automatically, and until when its grades are to be submitted;
    without a row: nightly, and not known.

    ``night`` is the last night, in the course's zone, that has had its comparison. ``asked_at``: it
    is to be compared as soon as its platform has room; empty once it was begun.
    """

    pairing = models.OneToOneField("pair.Pairing", models.CASCADE, related_name="schedule")
    nightly = models.BooleanField(default=True)
    grades_due = models.DateField(null=True)
    night = models.DateField(null=True)
    asked_at = models.DateTimeField(null=True)
    asked_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )


class Keep(models.Model):
    """Somebody's word that a finding stays as it is.

    It holds while both sides say what they said then.
    """

    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="keeps")
    key = models.CharField(max_length=400)
    publisher = models.CharField(max_length=SAID, null=True)
    gradebook = models.CharField(max_length=SAID, null=True)
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["pairing", "key"], name="one_keep_per_finding")
        ]


class Finding(models.Model):
    """One difference with its cause; numbers are exact decimals as text.

    ``key`` is the same for the same cell, column or learner in every comparison; ``since`` is when
    a comparison first found it as it is. ``kept`` is when somebody decided to leave it so, empty
    while it is open. ``because`` is the kind of the column's finding that explains a cell's.
    ``read``: the publisher was asked for this cell, so it may be settled together with others.
    """

    comparison = models.ForeignKey(Comparison, models.CASCADE, related_name="findings")
    position = models.IntegerField()
    key = models.CharField(max_length=400, default="")
    scope = models.CharField(max_length=10)  # cell, column or learner
    kind = models.CharField(max_length=30)
    level = models.CharField(max_length=10)
    side = models.CharField(max_length=10)  # left, both or right of the Venn
    placement = models.ForeignKey("content.Placement", models.SET_NULL, null=True, related_name="+")
    person = models.ForeignKey("pair.Learner", models.SET_NULL, null=True, related_name="+")
    account = models.CharField(
        max_length=255, blank=True
    )  # of a learner whom the publisher alone has
    item = models.CharField(max_length=1000, blank=True)
    learner = models.CharField(max_length=200, blank=True)
    email = models.CharField(max_length=254, blank=True)
    publisher = models.CharField(max_length=SAID, null=True)
    publisher_points = models.CharField(max_length=NUMBER, null=True)
    publisher_at = models.CharField(max_length=40, blank=True)
    source = models.CharField(max_length=20, blank=True)  # where the publisher's score was read
    gradebook = models.CharField(max_length=SAID, null=True)
    gradebook_points = models.CharField(max_length=NUMBER, null=True)
    sent = models.CharField(max_length=NUMBER, null=True)
    scaled = models.CharField(max_length=NUMBER, null=True)
    cause = models.TextField()
    because = models.CharField(max_length=30, blank=True)
    read = models.BooleanField(default=False)
    remedies = models.JSONField(default=list)
    default = models.CharField(max_length=20, blank=True)
    candidates = models.JSONField(default=list)
    since = models.DateTimeField(null=True)
    kept = models.DateTimeField(null=True)

    class Meta:
        ordering = ["position", "id"]
        indexes = [models.Index(fields=["comparison", "position", "id"])]

    @property
    def new(self) -> bool:
        """Say whether the comparison before did not have it."""
        return self.since == self.comparison.at


class Note(models.Model):
    """A word that somebody left on a cell."""

    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="notes")
    placement = models.ForeignKey("content.Placement", models.CASCADE, related_name="notes")
    learner = models.ForeignKey("pair.Learner", models.CASCADE, related_name="notes")
    text = models.CharField(max_length=1000)
    author = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]


class Settlement(models.Model):
    """Findings being settled together. An assistant's is a proposal until an instructor carries it
    out; its job says how far it is, and what it takes back.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="settlements")
    comparison = models.ForeignKey(
        Comparison, models.SET_NULL, null=True, related_name="settlements"
    )
    job = models.OneToOneField("ops.Job", models.CASCADE, related_name="settlement")
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )
    made_at = models.DateTimeField(default=timezone.now)
    carried_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )

    class Meta:
        indexes = [models.Index(fields=["pairing", "-made_at"])]

    @property
    def state(self) -> str:
        """Return ``proposed``, ``begun``, ``done`` (as far as it came) or ``dismissed``."""
        if self.job.state in {Job.State.PROPOSED, Job.State.DISMISSED}:
            return str(self.job.state)
        return "begun" if self.job.unfinished else "done"

    @property
    def steps(self) -> models.QuerySet[SettleStep]:
        """Return its steps in order."""
        return self.job.reconcile_steps.order_by("position")


class SettleStep(operations.Step):
    """One finding being settled: what was there, what is written, and what was there afterwards.

    It is left where something else was there than the comparison saw. ``kind`` is the finding's;
    ``memory`` what we remembered of the cell or column before, for an undo.
    """

    key = models.CharField(max_length=400)
    scope = models.CharField(max_length=10)
    remedy = models.CharField(max_length=20)
    placement = models.ForeignKey("content.Placement", models.SET_NULL, null=True, related_name="+")
    person = models.ForeignKey("pair.Learner", models.SET_NULL, null=True, related_name="+")
    item = models.CharField(max_length=1000, blank=True)
    learner = models.CharField(max_length=200, blank=True)
    publisher = models.CharField(max_length=SAID, null=True)
    before = models.CharField(max_length=SAID, null=True)
    after = models.CharField(max_length=SAID, null=True)
    memory = models.JSONField(default=dict)
    words = models.CharField(max_length=500, blank=True)

    class Meta(operations.Step.Meta):
        indexes = [models.Index(fields=["placement", "person"])]

    @property
    def title(self) -> str:
        """Return whose score of what it is about, or which column."""
        return ", ".join(part for part in (self.learner, self.item) if part)
