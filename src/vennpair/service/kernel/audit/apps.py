"""The app's label."""

from __future__ import annotations

from django.apps import AppConfig


class AuditConfig(AppConfig):
    """The audit trail and notices; its tables keep the name that they were made under."""

    name = "vennpair.service.kernel.audit"
    label = "activity"

    def ready(self) -> None:
        """Say what is spent of it."""
        from vennpair.service.kernel.audit.purging import delete_old_events, delete_old_notices
        from vennpair.service.kernel.purging import delete_spent

        delete_spent.listen(delete_old_notices)
        delete_spent.listen(delete_old_events)
