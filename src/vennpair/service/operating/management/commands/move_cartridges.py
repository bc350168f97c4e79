"""Move the bytes of cartridges to where the setting says."""

from __future__ import annotations

from typing import Any

from vennpair.core.counting import many
from vennpair.service.content.storage import move_parts
from vennpair.service.kernel.operator import OperatorCommand


class Command(OperatorCommand):
    """Beside the running service; safe to stop and to repeat."""

    help = (
        "Move the bytes of all cartridges to the place of VENNPAIR_CARTRIDGES, from the database"
        " and from that of VENNPAIR_CARTRIDGES_BEFORE."
    )

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        count = sum(1 for _ in move_parts())
        self.say(f"{many(count, 'piece was', 'pieces were')} moved; all others were there already.")
