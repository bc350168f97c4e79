"""Shells, homework courses, learners, and pairings."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.db.models import Q

from vennpair.service.operations import steps as operations

MAKING = "making-"  # the id of a course that the publisher is still to make


def new_sub() -> str:
    """Return an opaque subject for a person whom no publisher knows yet."""
    return str(uuid.uuid4())


class Shell(models.Model):
    """A course (LTI context) on a platform, with the services that its last launch named."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    platform = models.ForeignKey("connect.Platform", models.CASCADE, related_name="shells")
    context_id = models.CharField(max_length=255)
    title = models.CharField(max_length=300)
    label = models.CharField(max_length=100, blank=True)
    timezone = models.CharField(max_length=60, blank=True)
    lineitems_url = models.URLField(max_length=1000, blank=True)
    memberships_url = models.URLField(max_length=1000, blank=True)
    outline_url = models.URLField(max_length=1000, blank=True)
    return_url = models.URLField(max_length=1000, blank=True)
    scopes = models.JSONField(default=list)
    history = models.JSONField(default=list)  # contexts it was copied from, the most recent first
    opened_at = models.DateTimeField(auto_now=True)
    roster_at = models.DateTimeField(null=True)  # when its members were last read

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["platform", "context_id"], name="one_shell_per_context")
        ]

    @property
    def zone(self) -> str:
        """Return the course's time zone, else the institution's."""
        return self.timezone or self.platform.institution.timezone


class ShellRole(models.Model):
    """Somebody's part in a shell: ``instructor`` and ``designer`` may change, ``assistant`` may
    look and compare. ``listed``: the roster has named them, so that it may also take the part away.
    """

    shell = models.ForeignKey(Shell, models.CASCADE, related_name="roles")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="shell_roles")
    role = models.CharField(max_length=20)
    listed = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shell", "user"], name="one_role_per_shell")]


class Consent(models.Model):
    """An instructor's agreement that a shell is read and written; ended where it was withdrawn."""

    shell = models.ForeignKey(Shell, models.CASCADE, related_name="consents")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="+")
    agreed_at = models.DateTimeField(auto_now_add=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["shell"], condition=Q(withdrawn_at=None), name="one_consent_per_shell"
            )
        ]


class AccountLink(models.Model):
    """Which account at a publisher is a user's.

    ``pending`` until the publisher or the user has said so.
    """

    class State(models.TextChoices):
        BEGUN = "begun"
        PENDING = "pending"  # the account looks like somebody else's: the user confirms
        LINKED = "linked"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="account_links")
    publisher = models.ForeignKey("connect.Publisher", models.CASCADE, related_name="account_links")
    state = models.CharField(max_length=10, choices=State, default=State.BEGUN)
    nonce = models.CharField(max_length=64, blank=True)
    account_id = models.CharField(max_length=255, blank=True)
    name = models.CharField(max_length=200, blank=True)
    email = models.CharField(max_length=254, blank=True)
    courses = models.JSONField(default=list)  # sourced ids of the courses that the account teaches
    begun_at = models.DateTimeField(auto_now_add=True)
    linked_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["user", "publisher"], name="one_account_per_publisher")
        ]


class Title(models.Model):
    """A book or product that the institution has adopted at a publisher."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    publisher = models.ForeignKey("connect.Publisher", models.CASCADE, related_name="titles")
    key = models.CharField(max_length=255)
    title = models.CharField(max_length=300)
    author = models.CharField(max_length=300, blank=True)
    isbn = models.CharField(max_length=40, blank=True)
    edition = models.CharField(max_length=60, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["publisher", "key"], name="one_title_per_key")
        ]


class HomeworkCourse(models.Model):
    """One course section at a publisher (OneRoster class).

    ``search`` is what one may find it by, folded.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    publisher = models.ForeignKey("connect.Publisher", models.CASCADE, related_name="courses")
    sourced_id = models.CharField(max_length=255)
    title = models.CharField(max_length=300)
    code = models.CharField(max_length=100, blank=True)
    term = models.CharField(max_length=100, blank=True)
    section = models.CharField(max_length=20, blank=True)
    author = models.CharField(max_length=300, blank=True)
    isbn = models.CharField(max_length=40, blank=True)
    shared = models.BooleanField(default=False)  # its teacher lets colleagues copy it
    timezone = models.CharField(max_length=60, blank=True)
    learners = models.IntegerField(null=True)
    gone = models.BooleanField(default=False)
    search = models.TextField(blank=True)
    folded_title = models.CharField(
        max_length=300, blank=True
    )  # short, as every course is ranked by it
    seen_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["publisher", "sourced_id"], name="one_course_per_class")
        ]
        indexes = [models.Index(fields=["title", "term", "code", "id"], name="courses_in_order")]


class Pairing(models.Model):
    """One shell joined to one homework course."""

    class State(models.TextChoices):
        DRAFT = "draft"
        READY = "ready"
        LIVE = "live"
        PAUSED = "paused"
        ENDED = "ended"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shell = models.ForeignKey(Shell, models.CASCADE, related_name="pairings")
    course = models.ForeignKey(HomeworkCourse, models.CASCADE, related_name="pairings")
    state = models.CharField(max_length=10, choices=State, default=State.DRAFT)
    relay_on = models.BooleanField(default=False)
    access = models.CharField(max_length=10, blank=True)  # how learners pay: code, fee, free
    plan = models.JSONField(
        default=dict
    )  # what the set-up has the publisher make: way, source, name, teacher
    ended_at = models.DateTimeField(null=True)
    copied_from = models.ForeignKey("self", models.SET_NULL, null=True, related_name="copies")
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["shell"], condition=~Q(state="ended"), name="one_pairing_per_shell"
            ),
        ]

    @property
    def plan_open(self) -> bool:
        """Say whether the publisher is still to make the course."""
        return self.course.sourced_id.startswith(MAKING)


class Learner(models.Model):
    """A learner of a shell. ``sub`` is the subject under which publishers know the person: one for
    all shells of a platform, so that they have one account.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shell = models.ForeignKey(Shell, models.CASCADE, related_name="learners")
    subject = models.CharField(max_length=255)
    sub = models.CharField(max_length=64, db_index=True, default=new_sub)
    name = models.CharField(max_length=200, blank=True)
    given_name = models.CharField(max_length=100, blank=True)
    family_name = models.CharField(max_length=100, blank=True)
    email = models.CharField(max_length=254, blank=True)
    number = models.CharField(max_length=100, blank=True)
    active = models.BooleanField(default=True)
    first_launch = models.DateTimeField(null=True)
    listed_at = models.DateTimeField(null=True)  # when the roster last listed them

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shell", "subject"], name="one_learner_per_subject")
        ]


class LearnerMatch(models.Model):
    """An instructor's word that an account at the publisher is a learner of the shell."""

    learner = models.ForeignKey(Learner, models.CASCADE, related_name="matches")
    course = models.ForeignKey(HomeworkCourse, models.CASCADE, related_name="matches")
    student = models.CharField(max_length=255)  # OneRoster sourcedId
    name = models.CharField(max_length=200, blank=True)
    email = models.CharField(max_length=254, blank=True)
    confirmed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+"
    )
    confirmed_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["course", "student"], name="one_learner_per_account"),
            models.UniqueConstraint(fields=["learner", "course"], name="one_account_per_learner"),
        ]


class ShellStep(operations.Step):
    """A write to a shell beside its links and columns: the first-steps page put into it, brought up
    to date or taken out again, or the tool's place in it changed.

    ``etag`` is the shell's of what was written, ``node`` the page's id; ``before`` is what was
    there, empty where the page is new.
    """

    class Kind(models.TextChoices):
        PLACE = "place"
        REMOVE = "remove"
        TOOL = "tool"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    node = models.CharField(max_length=255, blank=True)
    etag = models.CharField(max_length=255, blank=True)
    before = models.JSONField(default=dict)

    class Meta(operations.Step.Meta):
        pass

    @property
    def title(self) -> str:
        """Return the title of what is written."""
        return str(self.facts["title"])
