"""What holds for outside calls from the first one on."""

from __future__ import annotations

from django.apps import AppConfig


class HoldConfig(AppConfig):
    """The hold."""

    name = "vennpair.service.kernel.hold"
    label = "hold"

    def ready(self) -> None:
        """Ask before each outgoing call."""
        from vennpair.gateways.hold import ask_with
        from vennpair.service.kernel.hold.state import hear_of_hold, known

        hear_of_hold()
        ask_with(known)
