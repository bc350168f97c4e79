"""What the commands of ``vennpair-server`` share."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from django.core.management.base import BaseCommand


class OperatorCommand(BaseCommand):
    """A command without the framework's own options, which mean nothing to an operator."""

    suppressed_base_arguments = {
        *("--version", "--verbosity", "--settings", "--pythonpath", "--traceback"),
        *("--no-color", "--force-color", "--skip-checks"),
    }
    requires_system_checks: Any = []

    def say(self, lines: str | Iterable[str]) -> None:
        """Print a line, or several."""
        for line in [lines] if isinstance(lines, str) else lines:
            self.stdout.write(line)
