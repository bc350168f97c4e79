"""Tables of the press: titles, homework courses with units and items, accounts, attempts,
reports.
"""

from __future__ import annotations

import uuid

from django.db import models


def new_id() -> str:
    """Return an opaque identifier."""
    return uuid.uuid4().hex


class SigningKey(models.Model):
    """The tool's own key."""

    kid = models.CharField(max_length=100)
    pem = models.TextField()


class Platform(models.Model):
    """A registered LTI platform."""

    issuer = models.URLField()
    client_id = models.CharField(max_length=100)
    deployment_id = models.CharField(max_length=100)
    authorization_url = models.URLField()
    token_url = models.URLField()
    jwks_url = models.URLField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["issuer", "client_id"], name="one_platform")]


class LaunchState(models.Model):
    """A launch that was begun: its state and nonce are good once."""

    state = models.CharField(max_length=64, unique=True, default=new_id)
    nonce = models.CharField(max_length=64, default=new_id)
    platform = models.ForeignKey(Platform, models.CASCADE)
    made = models.DateTimeField(auto_now_add=True)


class ApiClient(models.Model):
    """Somebody who may read through OneRoster."""

    client_id = models.CharField(max_length=64, unique=True, default=new_id)
    secret = models.CharField(max_length=64, default=new_id)
    name = models.CharField(max_length=100, unique=True)


class ApiToken(models.Model):
    """An access token given to an API client."""

    value = models.CharField(max_length=64, unique=True, default=new_id)
    client = models.ForeignKey(ApiClient, models.CASCADE)
    scopes = models.JSONField(default=list)
    expires = models.DateTimeField()


class Title(models.Model):
    """A book that colleges adopt."""

    sourced_id = models.CharField(max_length=64, unique=True)
    title = models.CharField(max_length=200)
    author = models.CharField(max_length=200)
    isbn = models.CharField(max_length=20)
    edition = models.CharField(max_length=40)


class Course(models.Model):
    """A homework course (OneRoster class) of a title.

    ``shared`` where its teacher lets colleagues copy it, ``packaged`` where a cartridge of it is
    handed out.
    """

    sourced_id = models.CharField(max_length=64, unique=True)
    book = models.ForeignKey(Title, models.SET_NULL, null=True, related_name="courses")
    title = models.CharField(max_length=200)
    code = models.CharField(max_length=60)
    term = models.CharField(max_length=60)
    shared = models.BooleanField(default=False)
    packaged = models.BooleanField(default=True)


class Repeatable(models.Model):
    """The course that a request with an idempotency key made."""

    key = models.CharField(max_length=200, unique=True)
    course = models.ForeignKey(Course, models.CASCADE)


class KeyedPlatform(models.Model):
    """A platform that launches by key and secret (LTI 1.1)."""

    key = models.CharField(max_length=100, unique=True, default=new_id)
    secret = models.CharField(max_length=100, default=new_id)


class KeyedDestination(models.Model):
    """Where an item's scores of one account go by Basic Outcomes."""

    item = models.ForeignKey("Item", models.CASCADE)
    account = models.ForeignKey("Account", models.CASCADE)
    platform = models.ForeignKey(KeyedPlatform, models.CASCADE)
    url = models.URLField(max_length=1000)
    result = models.TextField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["item", "account"], name="one_keyed_destination")
        ]


class Unit(models.Model):
    """A unit of a homework course."""

    course = models.ForeignKey(Course, models.CASCADE, related_name="units")
    title = models.CharField(max_length=200)
    position = models.IntegerField()

    class Meta:
        ordering = ["position"]


class Item(models.Model):
    """An item of a unit: ``graded``, ``practice``, ``reading``, ``video`` or ``notes`` (for
    teachers).
    """

    unit = models.ForeignKey(Unit, models.CASCADE, related_name="items")
    sourced_id = models.CharField(max_length=64, unique=True)
    title = models.CharField(max_length=200)
    kind = models.CharField(max_length=20)
    category = models.CharField(max_length=60, blank=True)
    points = models.DecimalField(max_digits=8, decimal_places=2, null=True)
    due = models.DateTimeField(null=True)
    questions = models.JSONField(default=list)
    text = models.TextField(blank=True)
    url = models.URLField(blank=True)
    position = models.IntegerField()

    class Meta:
        ordering = ["position"]


class Account(models.Model):
    """Somebody's account at the press."""

    sourced_id = models.CharField(max_length=64, unique=True, default=new_id)
    given_name = models.CharField(max_length=100)
    family_name = models.CharField(max_length=100)
    email = models.EmailField(unique=True)
    teaches = models.BooleanField(default=False)

    @property
    def name(self) -> str:
        """Return the full name."""
        return f"{self.given_name} {self.family_name}"


class Identity(models.Model):
    """Under which subject a platform launches an account."""

    platform = models.ForeignKey(Platform, models.CASCADE)
    sub = models.CharField(max_length=200)
    account = models.ForeignKey(Account, models.CASCADE, related_name="identities")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["platform", "sub"], name="one_account_per_subject")
        ]


class Enrolment(models.Model):
    """An account's part in a course: ``student``, ``teacher``, or ``preview`` for a platform's test
    learner, who is in no roster.
    """

    course = models.ForeignKey(Course, models.CASCADE, related_name="enrolments")
    account = models.ForeignKey(Account, models.CASCADE, related_name="enrolments")
    role = models.CharField(max_length=20)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["course", "account"], name="one_part_per_course")
        ]


class Destination(models.Model):
    """Where an item's scores of one account are reported: the line item named in the launch."""

    item = models.ForeignKey(Item, models.CASCADE)
    account = models.ForeignKey(Account, models.CASCADE)
    platform = models.ForeignKey(Platform, models.CASCADE)
    sub = models.CharField(max_length=200)
    line_item = models.URLField(max_length=1000)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["item", "account"], name="one_destination")]


class Attempt(models.Model):
    """One answer to an item; the newest counts. ``reported`` is when the platform took it."""

    item = models.ForeignKey(Item, models.CASCADE, related_name="attempts")
    account = models.ForeignKey(Account, models.CASCADE, related_name="attempts")
    score = models.DecimalField(max_digits=8, decimal_places=2)
    at = models.DateTimeField()
    reported = models.DateTimeField(null=True)
    trouble = models.CharField(max_length=300, blank=True)
    changed = models.DateTimeField(auto_now=True)
    regraded = models.DateTimeField(null=True)  # when a teacher changed its score
    deleted = models.BooleanField(default=False)  # a teacher took it back

    class Meta:
        ordering = ["at", "id"]
