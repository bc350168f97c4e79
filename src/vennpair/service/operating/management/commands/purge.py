"""Delete what has served its purpose now."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.core.management.base import CommandParser

from vennpair.service.kernel.operator import OperatorCommand
from vennpair.service.kernel.purging import purge


class Command(OperatorCommand):
    """A worker does the same every hour."""

    help = "Delete what is kept no longer by the settings, and say how much of what went."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--dry-run", action="store_true", help="only count")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        gone = {what: count for what, count in purge(keep=options["dry_run"]).items() if count}
        kept = ", ".join(
            f"{name.lower()} {f'{days} days' if days else 'for ever'}"
            for name, days in settings.KEPT_DAYS.items()
        )
        self.say(f"Kept: {kept}.")
        said = ", ".join(f"{count:,} {what}" for what, count in gone.items())
        verb = "Would delete" if options["dry_run"] else "Deleted"
        self.say(f"{verb}: {said}." if said else "Nothing is older than that.")
