"""What connections do where the kernel asks."""

from __future__ import annotations

from vennpair.service.connect.purging import delete_spent_sign_ins
from vennpair.service.kernel.purging import delete_spent


def listen() -> None:
    """Listen to what concerns signing in."""
    delete_spent.listen(delete_spent_sign_ins)
