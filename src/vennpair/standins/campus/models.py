"""Tables of the campus: people, shells with their outline and gradebook, and the registered
tool.
"""

from __future__ import annotations

import uuid

from django.db import models


def new_id() -> str:
    """Return an opaque identifier."""
    return uuid.uuid4().hex


class SigningKey(models.Model):
    """The platform's own key."""

    kid = models.CharField(max_length=100)
    pem = models.TextField()


class Person(models.Model):
    """Somebody at the college; ``sub`` is what tools see."""

    sub = models.CharField(max_length=64, unique=True, default=new_id)
    given_name = models.CharField(max_length=100)
    family_name = models.CharField(max_length=100)
    email = models.EmailField(unique=True)
    number = models.CharField(max_length=40, blank=True)
    administers = models.BooleanField(default=False)
    testing = models.BooleanField(default=False)  # a course's test learner: nobody real

    @property
    def name(self) -> str:
        """Return the full name."""
        return f"{self.given_name} {self.family_name}"


class Shell(models.Model):
    """A course; ``history`` lists the context ids it was copied from, newest first."""

    context_id = models.CharField(max_length=64, unique=True, default=new_id)
    title = models.CharField(max_length=200)
    label = models.CharField(max_length=60)
    term = models.CharField(max_length=60)
    zone = models.CharField(max_length=60, default="America/Chicago")
    history = models.CharField(max_length=400, blank=True)


class Enrolment(models.Model):
    """A person's part in a shell: ``instructor``, ``assistant``, ``learner``, or ``preview``: the
    course's test learner, who is in no roster.
    """

    shell = models.ForeignKey(Shell, models.CASCADE, related_name="enrolments")
    person = models.ForeignKey(Person, models.CASCADE, related_name="enrolments")
    role = models.CharField(max_length=20)
    active = models.BooleanField(default=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shell", "person"], name="one_part_per_shell")
        ]

    @property
    def teaches(self) -> bool:
        """Say whether this is staff."""
        return self.role in {"instructor", "assistant"}


class Tool(models.Model):
    """A registered LTI tool with its one deployment.

    ``scopes`` are those that it may ask for, all where empty.
    """

    name = models.CharField(max_length=100)
    client_id = models.CharField(max_length=64, unique=True, default=new_id)
    deployment_id = models.CharField(max_length=64, default=new_id)
    login_url = models.URLField()
    launch_url = models.URLField()
    redirect_uris = models.JSONField(default=list)
    jwks_url = models.URLField()
    custom = models.JSONField(default=dict)
    scopes = models.JSONField(default=list)


class RegistrationToken(models.Model):
    """A one-time right to register a tool."""

    value = models.CharField(max_length=64, unique=True, default=new_id)
    made = models.DateTimeField(auto_now_add=True)
    used = models.DateTimeField(null=True)


class ToolPlace(models.Model):
    """Whether the tool is turned on in a shell, where in the navigation, and for whom."""

    shell = models.OneToOneField(Shell, models.CASCADE, related_name="tool_place")
    on = models.BooleanField(default=True)
    navigation = models.BooleanField(default=True)
    position = models.IntegerField(default=0)
    audience = models.CharField(max_length=20, default="instructor")
    version = models.IntegerField(default=1)


class Node(models.Model):
    """A folder or entry of a shell's outline (docs/shell-outline.md)."""

    key = models.CharField(max_length=64, unique=True, default=new_id)
    shell = models.ForeignKey(Shell, models.CASCADE, related_name="nodes")
    parent = models.ForeignKey(
        "self", models.CASCADE, null=True, blank=True, related_name="children"
    )
    kind = models.CharField(max_length=20)
    title = models.CharField(max_length=500)
    position = models.IntegerField(default=0)
    visible = models.BooleanField(default=True)
    audience = models.CharField(max_length=20, default="everyone")
    url = models.URLField(max_length=2000, blank=True)
    custom = models.JSONField(default=dict)
    resource_link_id = models.CharField(max_length=64, blank=True)
    link_history = models.CharField(
        max_length=400, blank=True
    )  # resource links it was copied from, newest first
    body = models.TextField(blank=True)  # a page's, discussion's or assignment's HTML
    identifier = models.CharField(max_length=255, blank=True)  # its maker's own name for it
    new_window = models.BooleanField(default=False)
    points = models.DecimalField(max_digits=12, decimal_places=4, null=True)
    questions = models.JSONField(default=list)  # a quiz's, once it was taken out of its cartridge
    used = models.BooleanField(default=False)  # a learner has opened it
    shown_from = models.CharField(max_length=40, blank=True)
    due_at = models.CharField(max_length=40, blank=True)
    listed = models.BooleanField(default=True)  # else it is opened from a page's text alone
    level = models.IntegerField(default=0)  # how far it is set in among its neighbours
    version = models.IntegerField(default=1)

    class Meta:
        ordering = ["position", "id"]


class StoredFile(models.Model):
    """A file of a shell, kept under its SHA-256, so that none is kept twice."""

    shell = models.ForeignKey(Shell, models.CASCADE, related_name="files")
    digest = models.CharField(max_length=64)
    name = models.CharField(max_length=255)
    media = models.CharField(max_length=100)
    data = models.BinaryField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shell", "digest"], name="one_file_per_digest")
        ]


class CartridgeImport(models.Model):
    """A cartridge that the campus imports itself (queued, running, done or failed), and what it has
    to say about it.
    """

    key = models.CharField(max_length=64, unique=True, default=new_id)
    shell = models.ForeignKey(Shell, models.CASCADE, related_name="cartridge_imports")
    name = models.CharField(max_length=255, blank=True)
    state = models.CharField(max_length=20, default="queued")
    issues = models.JSONField(default=list)


class Category(models.Model):
    """A group of columns."""

    key = models.CharField(max_length=64, unique=True, default=new_id)
    shell = models.ForeignKey(Shell, models.CASCADE, related_name="categories")
    title = models.CharField(max_length=200)

    class Meta:
        ordering = ["id"]


class Column(models.Model):
    """A gradebook column (AGS line item)."""

    key = models.CharField(max_length=64, unique=True, default=new_id)
    shell = models.ForeignKey(Shell, models.CASCADE, related_name="columns")
    label = models.CharField(max_length=500)
    maximum = models.DecimalField(max_digits=12, decimal_places=4)
    resource_id = models.CharField(max_length=200, blank=True)
    link = models.ForeignKey(Node, models.SET_NULL, null=True, blank=True, related_name="columns")
    tag = models.CharField(max_length=200, blank=True)
    start = models.CharField(max_length=40, blank=True)
    end = models.CharField(max_length=40, blank=True)
    category = models.ForeignKey(
        Category, models.SET_NULL, null=True, blank=True, related_name="columns"
    )
    released = models.BooleanField(default=True)  # learners see its scores
    locked = models.BooleanField(default=False)  # no tool may write into it
    position = models.IntegerField(
        null=True
    )  # none until somebody orders the gradebook: then it is after the ordered ones

    class Meta:
        ordering = [models.F("position").asc(nulls_last=True), "id"]


class Cell(models.Model):
    """One learner's score in one column; ``by_hand`` where a person typed it."""

    column = models.ForeignKey(Column, models.CASCADE, related_name="cells")
    person = models.ForeignKey(Person, models.CASCADE)
    score = models.DecimalField(max_digits=12, decimal_places=4, null=True)
    comment = models.TextField(blank=True)
    timestamp = models.DateTimeField(null=True)
    by_hand = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["column", "person"], name="one_cell")]


class Token(models.Model):
    """An access token given to a tool."""

    value = models.CharField(max_length=64, unique=True, default=new_id)
    tool = models.ForeignKey(Tool, models.CASCADE)
    scopes = models.JSONField(default=list)
    expires = models.DateTimeField()


class SeenAssertion(models.Model):
    """The id of a client assertion, so that none is used twice."""

    value = models.CharField(max_length=200, unique=True)
    seen = models.DateTimeField(auto_now_add=True)


class Repeatable(models.Model):
    """The answer to a write that carried an idempotency key."""

    key = models.CharField(max_length=200, unique=True)
    fingerprint = models.CharField(max_length=64)
    body = models.JSONField()
