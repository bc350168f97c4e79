"""What content does where the kernel asks."""

from __future__ import annotations

from vennpair.service.content.purging import delete_spent_packages
from vennpair.service.kernel.purging import delete_spent


def listen() -> None:
    """Listen to what concerns packages."""
    delete_spent.listen(delete_spent_packages)
