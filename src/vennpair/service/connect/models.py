"""Institutions, people, registered platforms and publishers, and our own keys."""

from __future__ import annotations

import uuid

from django.contrib.auth.models import AbstractUser
from django.db import models


def new_client_id() -> str:
    """Return an opaque client id for a publisher that we are the platform of."""
    return uuid.uuid4().hex


class Institution(models.Model):
    """A college; everything hangs off one, and none sees another's."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200, unique=True)
    timezone = models.CharField(max_length=60, default="UTC")


class User(AbstractUser):
    """Somebody who signs in: staff of one institution. ``is_staff`` means administrator there."""

    institution = models.ForeignKey(Institution, models.CASCADE, null=True, related_name="users")

    @property
    def shown_name(self) -> str:
        """Return the name that others see."""
        return self.get_full_name() or self.username


class SigningKey(models.Model):
    """A key of ours; ``secret`` is the private PEM, encrypted."""

    kid = models.CharField(max_length=100, unique=True)
    secret = models.TextField()
    made_at = models.DateTimeField(auto_now_add=True)


class Platform(models.Model):
    """A course platform at which we are registered as a tool."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    institution = models.ForeignKey(Institution, models.CASCADE, related_name="platforms")
    name = models.CharField(max_length=200)
    issuer = models.URLField(max_length=500)
    client_id = models.CharField(max_length=200)
    deployment_ids = models.JSONField(default=list)
    authorization_url = models.URLField(max_length=500)
    token_url = models.URLField(max_length=500)
    jwks_url = models.URLField(max_length=500)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["issuer", "client_id"], name="one_registration")]


class Identity(models.Model):
    """Under which subject a platform launches one of our users."""

    platform = models.ForeignKey(Platform, models.CASCADE, related_name="identities")
    subject = models.CharField(max_length=255)
    user = models.ForeignKey(User, models.CASCADE, related_name="identities")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["platform", "subject"], name="one_user_per_subject")]


class Publisher(models.Model):
    """A homework service of which we are the platform, with its OneRoster access."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    institution = models.ForeignKey(Institution, models.CASCADE, related_name="publishers")
    name = models.CharField(max_length=200)
    client_id = models.CharField(max_length=64, unique=True, default=new_client_id)
    deployment_id = models.CharField(max_length=64, default=new_client_id)
    login_url = models.URLField(max_length=500)
    launch_url = models.URLField(max_length=500)
    redirect_uris = models.JSONField(default=list)
    jwks_url = models.URLField(max_length=500)
    oneroster_url = models.URLField(max_length=500)
    oneroster_token_url = models.URLField(max_length=500)
    oneroster_client_id = models.CharField(max_length=200)
    oneroster_secret = models.TextField()
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["institution", "name"], name="one_publisher_of_a_name")]
