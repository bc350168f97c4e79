"""Packages, imports with their entries, deliveries of entries into the shell, and the items of a
pairing.
"""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone

from vennpair.service.kernel.moments import MomentField
from vennpair.service.operations import steps as operations


class Package(models.Model):
    """A cartridge's bytes, kept in parts so that an upload can go on where it broke off and any
    worker can read it.

    ``fingerprint`` is the sender's own word for the file, by which a broken upload is found again.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="packages")
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )
    filename = models.CharField(max_length=300, blank=True)
    fingerprint = models.CharField(max_length=200, blank=True)
    size = models.BigIntegerField(default=0)
    sha256 = models.CharField(max_length=64, blank=True)
    complete = models.BooleanField(default=False)
    used_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["used_at"])]


class Part(models.Model):
    """A piece of a package; all but the last have the same length. Its bytes are in ``data``, or
    under the name ``kept`` where the operator keeps cartridges outside the database.
    """

    package = models.ForeignKey(Package, models.CASCADE, related_name="parts")
    number = models.IntegerField()
    data = models.BinaryField()
    kept = models.CharField(max_length=100, blank=True, default="", db_default="")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["package", "number"], name="one_part_per_number")
        ]


class Import(models.Model):
    """One reading of a cartridge for a pairing.

    ``package`` is gone once its time is over, the report stays.
    """

    class Stage(models.TextChoices):
        QUEUED = "queued"
        READING = "reading"
        CHECKED = "checked"
        IMPORTING = "importing"
        DONE = "done"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="imports")
    job = models.OneToOneField("ops.Job", models.CASCADE, related_name="import_of")
    package = models.ForeignKey(Package, models.SET_NULL, null=True, related_name="imports")
    source = models.CharField(max_length=20)
    stage = models.CharField(max_length=10, choices=Stage, default=Stage.QUEUED)
    filename = models.CharField(max_length=300, blank=True)
    sha256 = models.CharField(max_length=64, blank=True)
    identifier = models.CharField(max_length=300, blank=True)
    title = models.CharField(max_length=500, blank=True)
    version = models.CharField(max_length=10, blank=True)
    profile = models.CharField(max_length=10, blank=True)
    language = models.CharField(max_length=40, blank=True)
    counts = models.JSONField(default=dict)
    findings = models.JSONField(default=list)
    report = models.JSONField(default=dict)
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        indexes = [models.Index(fields=["pairing", "-made_at"])]


class Item(models.Model):
    """An item of a pairing's homework course. ``due_at`` is a moment, empty
    where the publisher says none.

    ``source`` says who tells of it: ``publisher`` for its own package or catalogue, else the
    package that was uploaded; only its own source can withdraw an item. ``catalogue`` is what the
    publisher's catalogue last said of it, ``subjects`` what its package says it is about.
    ``resource`` and ``tag`` are those of the column that a picker answered with (AGS 2.0, 3.2.8 and
    3.2.9).
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="items")
    source = models.CharField(max_length=300, default="publisher")
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
    resource = models.CharField(max_length=1000, blank=True)
    tag = models.CharField(max_length=255, blank=True)
    points = models.DecimalField(max_digits=14, decimal_places=4, null=True)
    due_at = MomentField()
    category = models.CharField(max_length=255, blank=True)
    reason = models.CharField(max_length=200, blank=True)
    subjects = models.JSONField(default=list, db_default=models.Value([], models.JSONField()))
    catalogue = models.JSONField(default=dict)
    gone = models.BooleanField(default=False)

    class Meta:
        ordering = ["position", "id"]
        constraints = [models.UniqueConstraint(fields=["pairing", "key"], name="one_item_per_key")]


class Placements(models.QuerySet["Placement"]):
    """Placements of a pairing, or of several."""

    def placed(self) -> Placements:
        """Return those that are in their shells."""
        return self.filter(state=Placement.State.PLACED)


class Placement(models.Model):
    """An item put in a shell: an LTI resource link, with or without a column.

    Its fields say how it was deployed; ``seen`` is what the publisher said of the item then, empty
    where nobody has looked yet. Times are ISO 8601 with their zone. ``place`` is its place among
    the deployed links of its folder, ``column_place`` that of its column among the deployed
    columns. ``history`` holds the placements whose link it was before the shell was copied, the
    most recent first.
    """

    class State(models.TextChoices):
        PLANNED = "planned"
        # in a cartridge or an answer to the platform; known to be in the shell once somebody
        # opens it
        WRITTEN = "written"
        PLACED = "placed"
        FAILED = "failed"
        REMOVED = "removed"  # taken back; the row stays, as the ledger points to it

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="placements")
    item = models.OneToOneField(Item, models.CASCADE, related_name="placement")
    state = models.CharField(max_length=10, choices=State, default=State.PLANNED)
    title = models.CharField(max_length=1000)
    folder = models.CharField(max_length=500, blank=True)
    folder_id = models.CharField(max_length=255, blank=True)
    place = models.IntegerField(default=-1)
    column_place = models.IntegerField(default=-1)
    entry_id = models.CharField(max_length=255, blank=True)
    resource_link_id = models.CharField(max_length=255, blank=True, db_index=True)
    column_url = models.URLField(max_length=1000, blank=True)
    points = models.DecimalField(max_digits=14, decimal_places=4, null=True)
    due_at = MomentField()
    category = models.CharField(max_length=255, blank=True)
    visible = models.BooleanField(default=True)
    shown_from = models.CharField(max_length=40, blank=True)
    new_window = models.BooleanField(default=False)
    shift_days = models.IntegerField(default=0)
    seen = models.JSONField(default=dict)
    history = models.JSONField(default=list)

    objects = Placements.as_manager()

    class Meta:
        db_table = "deploy_placement"  # where it was made

    @property
    def is_scored(self) -> bool:
        """Say whether the publisher may report scores: there is a column, or there is to be one,
        and what comes earlier waits for it.
        """
        return bool(self.column_url) or (
            self.points is not None and self.state in {self.State.WRITTEN, self.State.PLACED}
        )


# The same as a condition: placements without a column now or to come.
NOT_SCORED = Q(column_url="") & (
    Q(points=None) | ~Q(state__in=[Placement.State.WRITTEN, Placement.State.PLACED])
)


class Correction(models.Model):
    """What an instructor knows better than a package: an entry's graded item (or ``none``), or its
    name. Kept across imports.
    """

    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="corrections")
    key = models.CharField(max_length=255)
    line_item = models.CharField(max_length=255, blank=True)
    title = models.CharField(max_length=1000, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["pairing", "key"], name="one_correction_per_key")
        ]


class CatalogueReading(models.Model):
    """One reading of a homework course's items at the publisher, and what had changed since the one
    before.
    """

    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, related_name="readings")
    at = models.DateTimeField(auto_now_add=True)
    items = models.IntegerField(default=0)
    changes = models.JSONField(default=list)

    class Meta:
        indexes = [models.Index(fields=["pairing", "-at"])]


class Written(models.Model):
    """A cartridge written for a platform that imports files: which entries (``order``), as which
    profile; its bytes are a package.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    import_of = models.ForeignKey(Import, models.CASCADE, related_name="written")
    job = models.OneToOneField("ops.Job", models.CASCADE, related_name="written")
    package = models.ForeignKey(Package, models.SET_NULL, null=True, related_name="+")
    profile = models.CharField(max_length=10)
    order = models.JSONField(default=dict)


class Delivery(models.Model):
    """Chosen entries of an import on their way into the shell, or out of it again: then its job
    says which it undoes.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    import_of = models.ForeignKey(Import, models.CASCADE, related_name="deliveries")
    job = models.OneToOneField("ops.Job", models.CASCADE, related_name="delivery")
    folder = models.CharField(max_length=500, blank=True)
    folder_id = models.CharField(max_length=255, blank=True)
    made_folder = models.BooleanField(default=False)
    made_at = models.DateTimeField(auto_now_add=True)

    @property
    def steps(self) -> models.QuerySet[DeliveryStep]:
        """Return its steps in order."""
        return self.job.content_steps.order_by("position")


class Entry(models.Model):
    """A row of an import's outline: what it is, what was understood of it, and what became of it.

    ``node`` and ``etag`` are the shell's, once it was brought; ``parent`` is the position of its
    folder, -1 at the top.
    """

    class State(models.TextChoices):
        UNTOUCHED = "untouched"
        WAITING = "waiting"
        MADE = "made"
        UPDATED = "updated"
        SAME = "same"
        KEPT = "kept"
        FAILED = "failed"
        LEFT_OUT = "left_out"
        REMOVED = "removed"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    import_of = models.ForeignKey(Import, models.CASCADE, related_name="entries")
    item = models.ForeignKey(Item, models.SET_NULL, null=True, related_name="entries")
    position = models.IntegerField()
    parent = models.IntegerField(default=-1)
    depth = models.IntegerField(default=0)
    key = models.CharField(max_length=255)
    resource = models.CharField(max_length=255, blank=True)
    kind = models.CharField(max_length=20)
    title = models.CharField(max_length=1000, blank=True)
    shown_title = models.CharField(max_length=1000)
    naming = models.CharField(max_length=20, blank=True)
    naming_reason = models.CharField(max_length=500, blank=True)
    unit = models.CharField(max_length=500, blank=True)
    audience = models.CharField(max_length=20, default="everyone")
    url = models.CharField(max_length=2000, blank=True)
    new_window = models.BooleanField(default=False)
    custom = models.JSONField(default=dict)
    member = models.CharField(max_length=2000, blank=True)
    files = models.JSONField(default=list)
    questions = models.JSONField(default=dict)
    line_item = models.CharField(max_length=255, blank=True)
    points = models.DecimalField(max_digits=14, decimal_places=4, null=True)
    due_at = MomentField()
    category = models.CharField(max_length=255, blank=True)
    reason = models.CharField(max_length=200, blank=True)
    group = models.CharField(max_length=20, blank=True)
    trouble = models.CharField(max_length=40, blank=True)
    trouble_message = models.CharField(max_length=500, blank=True)
    trouble_remedy = models.CharField(max_length=500, blank=True)
    blocked = models.BooleanField(default=False)
    digest = models.CharField(max_length=64, blank=True)
    state = models.CharField(max_length=10, choices=State, default=State.UNTOUCHED)
    action = models.CharField(max_length=10, blank=True)
    visible = models.BooleanField(default=True)
    message = models.CharField(max_length=500, blank=True)
    node = models.CharField(max_length=255, blank=True)
    etag = models.CharField(max_length=255, blank=True)

    class Meta:
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(fields=["import_of", "position"], name="one_entry_per_position")
        ]


class DeliveryStep(operations.Step):
    """One write of a delivery: its folder, an entry that is made, updated, taken out or shown
    again, or the column of a link. An entry that needs nothing is left, with the reason.

    ``node`` is the shell's id of what was made: once the entry has another, a later delivery made
    it, whose undoing takes it out.
    """

    class Kind(models.TextChoices):
        FOLDER = "folder"
        MAKE = "make"
        UPDATE = "update"
        COLUMN = "column"
        LEAVE = "leave"
        REMOVE = "remove"
        REMOVE_FOLDER = "remove_folder"
        SHOW = "show"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    entry = models.ForeignKey(Entry, models.CASCADE, null=True, related_name="steps")
    node = models.CharField(max_length=255, blank=True)

    class Meta(operations.Step.Meta):
        pass

    @property
    def idempotency_key(self) -> str:
        """Return the key of its write; one that was under way when steps came has an older one."""
        return str(self.facts.get("key") or self.pk)

    @property
    def title(self) -> str:
        """Return the title of what it changes."""
        return self.entry.shown_title if self.entry else str(self.facts.get("title", ""))
