"""What the app does once all apps are there."""

from __future__ import annotations

from django.apps import AppConfig


class LtiConfig(AppConfig):
    """Launches, in both directions."""

    name = "vennpair.service.lti"

    def ready(self) -> None:
        """Begin to listen."""
        from vennpair.service.lti.listeners import listen

        listen()
