"""Putting what was just made into its order; entries are made side by side, so they stand as they happened to arrive."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from vennpair.core.deploy.order import orders
from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway

TRIES = 3


def arrange(gateway: PlatformGateway, url: str, siblings: Sequence[str], made: Collection[str]) -> None:
    """Put the nodes ``made`` among their ``siblings``, one call for each folder that needs it. Raises OutsideError."""
    for turn in range(TRIES):
        outline = gateway.outline(url)
        try:
            for folder, children in orders(outline, siblings, made):
                gateway.put_in_order(url, folder, children)
        except OutsideError as error:
            # Somebody added or removed something meanwhile: look again, a few times.
            if error.failure.kind is not FailureKind.NEVER or turn == TRIES - 1:
                raise
        else:
            return
