"""The app of the operator's commands."""

from __future__ import annotations

from django.apps import AppConfig


class OperatingConfig(AppConfig):
    """What an operator does."""

    name = "vennpair.service.operating"
    label = "operating"

    def ready(self) -> None:
        """Say what is spent of pairings that are over."""
        from vennpair.service.kernel.purging import delete_spent
        from vennpair.service.operating.retention import delete_old_scores

        delete_spent.listen(delete_old_scores)
