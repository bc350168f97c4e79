"""The app's label."""

from __future__ import annotations

from django.apps import AppConfig


class JobsConfig(AppConfig):
    """Jobs; their tables keep the name that they were made under."""

    name = "vennpair.service.kernel.jobs"
    label = "ops"
