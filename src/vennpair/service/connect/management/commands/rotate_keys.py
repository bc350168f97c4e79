"""Publish a new signing key now."""

from __future__ import annotations

from typing import Any

from vennpair.service.connect.actions.rotate_keys import rotate_now
from vennpair.service.kernel.operator import OperatorCommand


class Command(OperatorCommand):
    """For the operator: the keys are those of all institutions. Run twice it publishes one."""

    help = "Publish a new signing key now; it signs in two days, the old one stays for a week."

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        made = rotate_now()
        self.stdout.write(
            f"{made.kid} is published and signs from {made.signs_from:%Y-%m-%d %H:%M} UTC on."
        )
