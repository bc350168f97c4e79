"""Answers kept for idempotency keys."""

from __future__ import annotations

from django.conf import settings
from django.core.serializers.json import DjangoJSONEncoder
from django.db import models


class KeptAnswer(models.Model):
    """The answer to a POST that carried an Idempotency-Key; ``status`` is null while it runs.

    ``acted`` is set in the transaction that does what was asked for, so that it is known whether
    that was done where the process ended before it could answer.
    """

    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE)
    key = models.CharField(max_length=200)
    fingerprint = models.CharField(max_length=64)
    status = models.IntegerField(null=True)
    body = models.JSONField(null=True, encoder=DjangoJSONEncoder)
    acted = models.BooleanField(default=False, db_default=False)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "key"], name="one_answer_per_key")]
