"""What the app does once all apps are there."""

from __future__ import annotations

from django.apps import AppConfig


class RelayConfig(AppConfig):
    """Sending scores to their columns."""

    name = "vennpair.service.relay"

    def ready(self) -> None:
        """Begin to listen."""
        from vennpair.service.relay.listeners import listen

        listen()
