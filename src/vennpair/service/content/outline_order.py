"""The order of a shell's outline, put right in one call for each folder that needs it."""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence

from vennpair.core.deploy.order import orders
from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.standards.outline import Node

TRIES = 3


def arrange(
    gateway: PlatformGateway, url: str, siblings: Sequence[str], made: Collection[str]
) -> None:
    """Put the nodes ``made`` among their ``siblings``, one call for each folder that needs it.

    Raises OutsideError.
    """
    persist(gateway, url, lambda outline: orders(outline, siblings, made))


def persist(
    gateway: PlatformGateway,
    url: str,
    plan: Callable[[Sequence[Node]], list[tuple[str, list[str]]]],
) -> None:
    """Give folders the order of their children that ``plan`` makes from the outline as it is now.

    Raises OutsideError.
    """
    for turn in range(TRIES):
        outline = gateway.outline(url)
        now: dict[str, list[str]] = {}
        for node in outline:
            now.setdefault(node.folder, []).append(node.id)
        try:
            for folder, children in plan(outline):
                if children != now.get(folder, []):
                    gateway.put_in_order(url, folder, children)
        except OutsideError as error:
            # Somebody added or removed something meanwhile: look again, a few times.
            if error.failure.kind is not FailureKind.NEVER or turn == TRIES - 1:
                raise
        else:
            return
