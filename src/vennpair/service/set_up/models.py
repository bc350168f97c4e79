"""Several sections that are set up together."""

from __future__ import annotations

import uuid
from typing import Literal

from django.conf import settings
from django.db import models

from vennpair.service.kernel.jobs.models import Job
from vennpair.service.pair.models import Pairing

# Of a section: before it was started, while and after its job ran, and once it is taken back.
Stage = Literal[
    "refused",
    "reading",
    "not_read",
    "ready",
    "running",
    "waiting",
    "live",
    "failed",
    "stopped",
    "undoing",
    "undone",
    "not_undone",
]


class SetUp(models.Model):
    """Sections set up together by one person.

    ``scores`` says when scores go (submission, due, later), ``access`` how learners pay, empty
    where no first-steps page was asked for, ``navigation`` whether learners find the tool in the
    navigation, ``way`` what is placed (core/deploy/ways.py), ``total`` the title of the column with
    a total, empty for none, ``readings`` whether readings and videos come along, ``review`` what
    becomes of units that repeat or are optional, ``columns_shown`` whether learners see the new
    columns' scores at once; all once it was started. ``complete``: what was asked for is all that
    should be. ``words`` say what came of it, once all has ended.
    """

    class Scores(models.TextChoices):
        SUBMISSION = "submission"
        DUE = "due"
        LATER = "later"

    class Way(models.TextChoices):
        COLUMNS = "columns"
        AVERAGE = "average"
        COURSE = "course"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="set_ups")
    made_at = models.DateTimeField(auto_now_add=True)
    started_at = models.DateTimeField(null=True)
    scores = models.CharField(max_length=10, choices=Scores, default=Scores.SUBMISSION)
    access = models.CharField(max_length=10, blank=True)
    navigation = models.BooleanField(default=False, db_default=False)
    way = models.CharField(
        max_length=10, choices=Way, default=Way.COLUMNS, db_default=Way.COLUMNS.value
    )
    total = models.CharField(max_length=255, blank=True, default="", db_default="")
    readings = models.BooleanField(default=False, db_default=False)
    review = models.CharField(max_length=10, default="keep", db_default="keep")
    columns_shown = models.BooleanField(default=True, db_default=True)
    complete = models.BooleanField(default=False, db_default=False)
    words = models.TextField(blank=True, default="", db_default="")


class Section(models.Model):
    """One shell of a set-up, with the jobs that carry it out: ``reading`` its homework course,
    ``placing`` what is new, ``bringing`` its readings, ``checking`` it as a learner, ``page`` with
    the first steps, ``tool`` in the navigation, all in the course of ``job``, which also makes
    ``total``; ``undoing`` takes it back. Where the sheet says all that should be, ``mending`` puts
    right what ``drifts`` names (placement and kind) and ``taking`` takes ``removals`` back.

    ``pairing`` is empty where the shell could not be paired; ``message`` and ``remedy`` say why.
    ``paired_here`` where the set-up made the pairing. ``ended_at`` is when ``job`` came to an end.
    """

    set_up = models.ForeignKey(SetUp, models.CASCADE, related_name="sections")
    position = models.IntegerField()
    shell = models.ForeignKey("pair.Shell", models.CASCADE, related_name="+")
    pairing = models.ForeignKey("pair.Pairing", models.CASCADE, null=True, related_name="sections")
    paired_here = models.BooleanField(default=False)
    relay_turned = models.BooleanField(default=False)
    message = models.CharField(max_length=500, blank=True)
    remedy = models.CharField(max_length=500, blank=True)
    reading = models.ForeignKey("ops.Job", models.SET_NULL, null=True, related_name="+")
    placing = models.ForeignKey("ops.Job", models.SET_NULL, null=True, related_name="+")
    drifts = models.JSONField(default=list, db_default=models.Value([], models.JSONField()))
    removals = models.JSONField(default=list, db_default=models.Value([], models.JSONField()))
    mending = models.ForeignKey("ops.Job", models.SET_NULL, null=True, related_name="+")
    taking = models.ForeignKey("ops.Job", models.SET_NULL, null=True, related_name="+")
    bringing = models.ForeignKey("ops.Job", models.SET_NULL, null=True, related_name="+")
    checking = models.ForeignKey("ops.Job", models.SET_NULL, null=True, related_name="+")
    page = models.ForeignKey("ops.Job", models.SET_NULL, null=True, related_name="+")
    tool = models.ForeignKey("ops.Job", models.SET_NULL, null=True, related_name="+")
    total = models.ForeignKey("deploy.AverageColumn", models.SET_NULL, null=True, related_name="+")
    job = models.OneToOneField("ops.Job", models.SET_NULL, null=True, related_name="section")
    undoing = models.OneToOneField("ops.Job", models.SET_NULL, null=True, related_name="+")
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(fields=["set_up", "shell"], name="one_section_per_shell")
        ]

    @property
    def name(self) -> str:
        """Return what people call the shell."""
        return self.shell.label or self.shell.title

    @property
    def paired(self) -> Pairing:
        """Return the pairing of a section that has one. Raises ValueError."""
        if self.pairing is None:
            raise ValueError(f"section {self.pk} is not paired")
        return self.pairing

    @property
    def parts(self) -> list[Job]:
        """Return the jobs of its parts that were begun, in their order."""
        parts = (
            self.placing,
            self.mending,
            self.taking,
            self.bringing,
            self.checking,
            self.page,
            self.tool,
        )
        return [each for each in parts if each is not None]

    @property
    def current(self) -> Job | None:
        """Return the job that says where it is: the part that is under way, while one is."""
        if self.undoing is None and self.job is not None and self.job.unfinished:
            return next((each for each in self.parts if each.unfinished), self.job)
        return self.undoing or self.job or self.reading

    @property
    def troubles(self) -> int:
        """Return how many steps were not done, and links did not open as they should; of sections
        as ``sections_of`` reads them, for all at once.
        """
        check = getattr(self.checking, "learner_check", None)
        rows = check.rows if check else []
        levels = ({each["level"] for each in row["findings"]} for row in rows)
        return int(getattr(self, "not_done", 0)) + sum(bool(each - {"note"}) for each in levels)

    @property
    def stage(self) -> Stage:
        """Return how far it is."""
        if self.pairing_id is None:
            return "refused"
        if self.undoing is not None:
            return _UNDOING.get(self.undoing.state, "undoing")
        if self.job is not None:
            return _RUNNING.get(self.job.state, "running")
        if self.message:  # it was left out when the others were started
            return "refused"
        if self.reading is not None and self.reading.state != Job.State.DONE:
            return "reading" if self.reading.unfinished else "not_read"
        return "ready"


_RUNNING: dict[str, Stage] = {
    Job.State.WAITING: "waiting",
    Job.State.DONE: "live",
    Job.State.FAILED: "failed",
    Job.State.CANCELLED: "stopped",
}
_UNDOING: dict[str, Stage] = {Job.State.DONE: "undone", Job.State.FAILED: "not_undone"}
