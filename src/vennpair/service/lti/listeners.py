"""What launches do where the kernel asks."""

from __future__ import annotations

from vennpair.service.kernel.purging import delete_spent
from vennpair.service.lti.purging import delete_spent_launches


def listen() -> None:
    """Listen to what concerns launches."""
    delete_spent.listen(delete_spent_launches)
