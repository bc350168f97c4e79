"""The app's label."""

from __future__ import annotations

from django.apps import AppConfig


class AuditConfig(AppConfig):
    """The audit trail and notices; its tables keep the name that they were made under."""

    name = "vennpair.service.kernel.audit"
    label = "activity"
