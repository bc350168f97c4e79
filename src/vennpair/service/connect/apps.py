"""What holds for outside calls from the first one on."""

from __future__ import annotations

from urllib.parse import urlsplit

from django.apps import AppConfig
from django.conf import settings

from vennpair.gateways.addresses import LOOPBACK, allow_only
from vennpair.gateways.proxy import go_through


class ConnectConfig(AppConfig):
    """Connections to the two sides."""

    name = "vennpair.service.connect"

    def ready(self) -> None:
        """Say where calls may go; a service on loopback, as the demo, meets others there."""
        from vennpair.service.connect.listeners import listen
        from vennpair.service.connect.pauses import hear_pauses

        listen()
        hear_pauses()
        own = urlsplit(settings.BASE_URL).hostname in {"127.0.0.1", "localhost", "::1"}
        allow_only([*settings.ALLOWED_RANGES, *(LOOPBACK if own else ())])
        go_through(settings.OUTGOING_PROXY, settings.OUTGOING_DIRECT)
