"""Gateways to registered platforms and publishers, one per process until a registration changes."""

from __future__ import annotations

import threading
from typing import Any

from vennpair.gateways.platform import PlatformGateway
from vennpair.gateways.publisher import PublisherGateway
from vennpair.gateways.tokens import secret_client, signed_client
from vennpair.service.connect.bulkhead import enter
from vennpair.service.connect.keys import signing_key
from vennpair.service.connect.models import Platform, Publisher
from vennpair.service.connect.pauses import patience_of
from vennpair.service.connect.secrets import unseal

_lock = threading.Lock()
_gateways: dict[tuple[Any, ...], Any] = {}


def platform_gateway(platform: Platform) -> PlatformGateway:
    """Return the gateway of a platform; tokens are shared by all threads of the process.

    Raises OutsideError ``crowded`` where its institution holds its share of them (bulkhead.py).
    """
    enter(platform.institution_id)
    with _lock:
        signer = signing_key()
        key = (platform.pk, platform.changed_at, signer.kid)
        if key not in _gateways:
            tokens = signed_client(
                platform.name,
                platform.client_id,
                platform.token_url,
                signer,
                platform.token_audience,
                patience_of(platform.pk, platform.name),
            )
            _gateways[key] = PlatformGateway(platform.name, tokens)
        return _gateways[key]  # type: ignore[no-any-return]


def publisher_gateway(publisher: Publisher) -> PublisherGateway:
    """Return the gateway of a publisher. Raises OutsideError ``crowded`` as that of a platform."""
    enter(publisher.institution_id)
    with _lock:
        key = (publisher.pk, publisher.changed_at)
        if key not in _gateways:
            tokens = secret_client(
                publisher.name,
                publisher.oneroster_client_id,
                unseal(publisher.oneroster_secret),
                publisher.oneroster_token_url,
                patience_of(publisher.pk, publisher.name),
            )
            _gateways[key] = PublisherGateway(
                publisher.name, publisher.oneroster_url, tokens, publisher.provisioning_url
            )
        return _gateways[key]  # type: ignore[no-any-return]
