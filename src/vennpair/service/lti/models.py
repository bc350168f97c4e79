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
    proof = models.CharField(
        max_length=64, default=new_secret
    )  # kept by the platform's frame where cookies are blocked
    storage_target = models.CharField(max_length=200, blank=True)
    made = models.DateTimeField(auto_now_add=True)


class Ticket(models.Model):
    """A launch that goes on in a new window, as cookies are blocked in the frame: good once, for a
    few minutes.
    """

    digest = models.CharField(max_length=64, unique=True)
    platform = models.ForeignKey("connect.Platform", models.CASCADE)
    claims = models.JSONField()
    made = models.DateTimeField(auto_now_add=True)


class UsedNonce(models.Model):
    """A nonce of an OAuth 1.0 message, so that none is used twice."""

    publisher = models.ForeignKey("connect.Publisher", models.CASCADE)
    value = models.CharField(max_length=255)
    seen = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["publisher", "value"], name="one_use_per_nonce")
        ]


class UsedAssertion(models.Model):
    """The id of a client assertion, so that none is used twice."""

    publisher = models.ForeignKey("connect.Publisher", models.CASCADE)
    value = models.CharField(max_length=255)
    seen = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["publisher", "value"], name="one_use_per_assertion")
        ]


class ServiceToken(models.Model):
    """An access token given to a publisher; only its hash is kept."""

    digest = models.CharField(max_length=64, unique=True)
    publisher = models.ForeignKey("connect.Publisher", models.CASCADE)
    scopes = models.JSONField(default=list)
    expires = models.DateTimeField()
