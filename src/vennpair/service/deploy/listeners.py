"""What deploying does where the kernel asks."""

from __future__ import annotations

from vennpair.service.deploy.purging import delete_spent_exports
from vennpair.service.kernel.purging import delete_spent


def listen() -> None:
    """Listen to what concerns exports and pickings."""
    delete_spent.listen(delete_spent_exports)
