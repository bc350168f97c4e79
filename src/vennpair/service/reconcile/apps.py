"""What the app does once all apps are there."""

from __future__ import annotations

from django.apps import AppConfig


class ReconcileConfig(AppConfig):
    """Comparing the two sides, and settling what differs."""

    name = "vennpair.service.reconcile"

    def ready(self) -> None:
        """Begin to listen."""
        from vennpair.service.reconcile.listeners import listen

        listen()
