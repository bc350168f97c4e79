"""What launches and service calls leave behind: used once, then gone."""

from __future__ import annotations

import uuid

from django.db import models


def new_secret() -> str:
    """Return an unguessable value."""
    return uuid.uuid4().hex + uuid.uuid4().hex


class LaunchState(models.Model):
    """A launch that a platform began: its state and nonce are good once."""

    state = models.CharField(max_length=64, unique=True, default=new_secret)
    nonce = models.CharField(max_length=64, default=new_secret)
    platform = models.ForeignKey("connect.Platform", models.CASCADE)
    made = models.DateTimeField(auto_now_add=True)


class UsedAssertion(models.Model):
    """The id of a client assertion, so that none is used twice."""

    publisher = models.ForeignKey("connect.Publisher", models.CASCADE)
    value = models.CharField(max_length=255)
    seen = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["publisher", "value"], name="one_use_per_assertion")]


class ServiceToken(models.Model):
    """An access token given to a publisher; only its hash is kept."""

    digest = models.CharField(max_length=64, unique=True)
    publisher = models.ForeignKey("connect.Publisher", models.CASCADE)
    scopes = models.JSONField(default=list)
    expires = models.DateTimeField()
