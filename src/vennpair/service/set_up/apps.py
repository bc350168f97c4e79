"""The app of setting up several sections together."""

from __future__ import annotations

from django.apps import AppConfig


class SetUpConfig(AppConfig):
    """What a new pairing, or several, need of all steps."""

    name = "vennpair.service.set_up"

    def ready(self) -> None:
        """Listen to lower apps."""
        from vennpair.service.set_up.listeners import listen

        listen()
