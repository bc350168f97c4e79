"""What the app does once all apps are there."""

from __future__ import annotations

from django.apps import AppConfig


class DeployConfig(AppConfig):
    """Placing items in shells, and keeping them right."""

    name = "vennpair.service.deploy"

    def ready(self) -> None:
        """Begin to listen."""
        from vennpair.service.deploy.listeners import listen

        listen()
