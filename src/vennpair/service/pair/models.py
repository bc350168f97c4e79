"""Shells, homework courses, learners, and pairings."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.db.models import Q


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
    opened_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["platform", "context_id"], name="one_shell_per_context")]

    @property
    def zone(self) -> str:
        """Return the course's time zone, else the institution's."""
        return self.timezone or self.platform.institution.timezone


class ShellRole(models.Model):
    """Somebody's part in a shell: ``instructor`` may change, ``assistant`` may look and compare."""

    shell = models.ForeignKey(Shell, models.CASCADE, related_name="roles")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="shell_roles")
    role = models.CharField(max_length=20)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shell", "user"], name="one_role_per_shell")]


class HomeworkCourse(models.Model):
    """One course section at a publisher (OneRoster class)."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    publisher = models.ForeignKey("connect.Publisher", models.CASCADE, related_name="courses")
    sourced_id = models.CharField(max_length=255)
    title = models.CharField(max_length=300)
    code = models.CharField(max_length=100, blank=True)
    term = models.CharField(max_length=100, blank=True)
    learners = models.IntegerField(null=True)
    seen_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["publisher", "sourced_id"], name="one_course_per_class")]


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
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shell"], condition=~Q(state="ended"), name="one_pairing_per_shell"),
            models.UniqueConstraint(fields=["course"], condition=~Q(state="ended"), name="one_pairing_per_course"),
        ]


class Learner(models.Model):
    """A learner of a shell; the id is the subject under which publishers know them."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shell = models.ForeignKey(Shell, models.CASCADE, related_name="learners")
    subject = models.CharField(max_length=255)
    name = models.CharField(max_length=200, blank=True)
    given_name = models.CharField(max_length=100, blank=True)
    family_name = models.CharField(max_length=100, blank=True)
    email = models.CharField(max_length=254, blank=True)
    number = models.CharField(max_length=100, blank=True)
    active = models.BooleanField(default=True)
    first_launch = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shell", "subject"], name="one_learner_per_subject")]
