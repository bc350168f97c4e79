"""The rollouts that make, change and remove placements, and what is watched of them afterwards."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.utils import timezone

from vennpair.service.content.models import Placement
from vennpair.service.kernel.moments import MomentField
from vennpair.service.operations import steps as operations


class ColumnClaim(models.Model):
    """Who is making the column of a written link that is being opened for the first time.

    One row a placement: of many clicks at once one inserts it. It goes once the column is known;
    ``failed_at`` is when the platform refused, so that a later click may try again.
    """

    placement = models.OneToOneField(Placement, models.CASCADE, primary_key=True)
    holder = models.UUIDField()
    begun_at = models.DateTimeField()
    failed_at = models.DateTimeField(null=True)


class Decision(models.Model):
    """What an instructor decided of an item whose points or due date the publisher leaves open.

    Kept for later rollouts.
    """

    item = models.OneToOneField("content.Item", models.CASCADE, related_name="decision")
    becomes = models.CharField(max_length=10, blank=True)
    points = models.DecimalField(max_digits=14, decimal_places=4, null=True)
    due_at = MomentField()


class Rollout(models.Model):
    """One batch of outside writes in a shell."""

    class Purpose(models.TextChoices):
        DEPLOY = "deploy"
        ORDER = "order"
        TAKE_BACK = "take_back"
        MEND = "mend"
        UNDO = "undo"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    purpose = models.CharField(max_length=10, choices=Purpose, default=Purpose.DEPLOY)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="rollouts")
    job = models.OneToOneField("ops.Job", models.CASCADE, related_name="rollout")
    folder = models.CharField(max_length=500, blank=True)
    order = models.JSONField(
        default=dict
    )  # by: how, after: which entry; empty where nothing is ordered
    before = models.JSONField(
        default=dict
    )  # the order of folders and gradebook as it was, for an undo
    made_at = models.DateTimeField(default=timezone.now)

    @property
    def steps(self) -> models.QuerySet[Step]:
        """Return its steps in order."""
        return self.job.deploy_steps.order_by("position")


class Step(operations.Step):
    """One outside write of a rollout; its id is the write's idempotency key, so it survives
    restarts.

    ``before`` is what was there, for an undo; ``node`` what was made. Steps of one placement are
    done in order.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    placement = models.ForeignKey(Placement, models.CASCADE, null=True, related_name="steps")
    before = models.JSONField(default=dict)
    node = models.CharField(max_length=255, blank=True)

    class Meta(operations.Step.Meta):
        pass

    @property
    def title(self) -> str:
        """Return the title of what it changes."""
        return self.placement.title if self.placement else str(self.facts.get("title", ""))


class Watch(models.Model):
    """How drift of a pairing is met: asked each time, the publisher (and what was deployed)
    followed, or the shell's kept.

    ``night`` is the last night, in the course's zone, in which it was looked at automatically.
    """

    class Way(models.TextChoices):
        ASK = "ask"
        FOLLOW = "follow"
        KEEP = "keep"

    pairing = models.OneToOneField("pair.Pairing", models.CASCADE, related_name="watch")
    way = models.CharField(max_length=10, choices=Way, default=Way.ASK)
    looked_at = models.DateTimeField(null=True)
    night = models.DateField(null=True)


class DriftFound(models.Model):
    """One drift of the last look; the next look replaces them all."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="drifts")
    placement = models.ForeignKey(Placement, models.CASCADE, related_name="drifts")
    kind = models.CharField(max_length=30)
    side = models.CharField(max_length=10)
    level = models.CharField(max_length=10)
    title = models.CharField(max_length=1000)
    before = models.CharField(max_length=500, blank=True)
    after = models.CharField(max_length=500, blank=True)
    who = models.CharField(max_length=200)
    breaks = models.CharField(max_length=300)

    class Meta:
        ordering = ["level", "title", "kind"]


class LearnerCheck(models.Model):
    """Links opened as a test learner: ``rows`` says for each what was found
    (core/deploy/learner_check.py). ``asked``: somebody wanted it; else it follows a rollout.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="learner_checks")
    job = models.OneToOneField("ops.Job", models.CASCADE, related_name="learner_check")
    placements = models.JSONField(default=list)
    asked = models.BooleanField(default=True, db_default=True)
    tester = models.CharField(
        max_length=255, blank=True
    )  # the platform's user id of its test learner
    rows = models.JSONField(default=list)
    made_at = models.DateTimeField(auto_now_add=True)


class AverageColumn(models.Model):
    """One column with a total of items, beside or instead of columns of their own
    (core/relay/totals.py).

    ``items`` are the ids of those that count; all graded items of ``categories`` count too, later
    ones included.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="averages")
    title = models.CharField(max_length=255)
    points = models.DecimalField(max_digits=14, decimal_places=4)
    items = models.JSONField(default=list)
    categories = models.JSONField(default=list)
    weighting = models.CharField(max_length=12, default="equal")
    weights = models.JSONField(default=dict)  # category to its weight, a decimal as text
    missing = models.CharField(max_length=12, default="until_due")
    places = models.IntegerField(default=2)
    keeps_up = models.BooleanField(default=False)  # sent automatically while the relay is on
    column_url = models.URLField(max_length=1000, blank=True)
    sent_at = models.DateTimeField(null=True)


class AverageSent(models.Model):
    """The total of a learner that the gradebook last accepted."""

    average = models.ForeignKey(AverageColumn, models.CASCADE, related_name="sent")
    learner = models.ForeignKey("pair.Learner", models.CASCADE, related_name="+")
    score = models.DecimalField(max_digits=16, decimal_places=6)
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["average", "learner"], name="one_total_per_learner")
        ]


class ColumnExport(models.Model):
    """The scores of a column that was taken back and removed, as a CSV file."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="exports")
    placement = models.ForeignKey(Placement, models.CASCADE, related_name="exports")
    title = models.CharField(max_length=1000)
    text = models.TextField()
    made_at = models.DateTimeField(auto_now_add=True)


class Picking(models.Model):
    """Somebody picks content: ``settings`` is what the asking side takes back (Deep Linking 2.0,
    4.4.1).

    Toward a platform we answer (``pairing`` may come later, as the shell is paired meanwhile);
    toward a publisher we asked.
    """

    class Side(models.TextChoices):
        PLATFORM = "platform"
        PUBLISHER = "publisher"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    side = models.CharField(max_length=10, choices=Side)
    shell = models.ForeignKey("pair.Shell", models.CASCADE, related_name="pickings")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="+")
    deployment_id = models.CharField(max_length=255, blank=True)
    settings = models.JSONField(default=dict)
    made_at = models.DateTimeField(auto_now_add=True)
    answered_at = models.DateTimeField(null=True)
