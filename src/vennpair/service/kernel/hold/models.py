"""Whether outgoing calls are kept back."""

from __future__ import annotations

from django.db import models


class Hold(models.Model):
    """The one row that says whether outgoing calls are kept back, since when, by whom and why.

    ``database`` is the one in which calls were last let go: in a copy of it they are kept back
    until an operator says otherwise there.
    """

    id = models.SmallIntegerField(primary_key=True, default=1)
    on = models.BooleanField(default=False, db_default=False)
    why = models.CharField(max_length=300, blank=True, default="", db_default="")
    since = models.DateTimeField(null=True)
    database = models.CharField(max_length=80)
