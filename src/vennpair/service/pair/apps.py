"""What the app does once all apps are there."""

from __future__ import annotations

from django.apps import AppConfig


class PairConfig(AppConfig):
    """Shells, homework courses, and pairings of them."""

    name = "vennpair.service.pair"

    def ready(self) -> None:
        """Begin to listen."""
        from vennpair.service.pair.listeners import listen

        listen()
