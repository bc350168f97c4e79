"""What the commands of ``vennpair-server`` share."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from django.core.management.base import BaseCommand, CommandError


class OperatorCommand(BaseCommand):
    """A command without the framework's own options, which mean nothing to an operator."""

    suppressed_base_arguments = {
        *("--version", "--verbosity", "--settings", "--pythonpath", "--traceback"),
        *("--no-color", "--force-color", "--skip-checks"),
    }
    requires_system_checks: Any = []
    _typed = False

    def run_from_argv(self, argv: list[str]) -> None:
        """Run as typed: what is refused is said in our words."""
        self._typed = True
        super().run_from_argv(argv)

    def execute(self, *args: Any, **options: Any) -> str | None:
        """Run; where somebody typed it, end with the status of what is refused."""
        try:
            return super().execute(*args, **options)
        except CommandError as error:
            if not self._typed:
                raise
            self.stderr.write(f"vennpair-server: {error}")
            raise SystemExit(error.returncode) from error

    def say(self, lines: str | Iterable[str]) -> None:
        """Print a line, or several."""
        for line in [lines] if isinstance(lines, str) else lines:
            self.stdout.write(line)
