"""What the app does once all apps are there."""

from __future__ import annotations

from django.apps import AppConfig


class ContentConfig(AppConfig):
    """The content of homework courses and cartridges."""

    name = "vennpair.service.content"

    def ready(self) -> None:
        """Begin to listen."""
        from vennpair.service.content.listeners import listen

        listen()
