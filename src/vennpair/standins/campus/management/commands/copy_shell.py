"""Copy a shell's content into another, as a platform does between terms."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vennpair.standins.campus.models import Shell
from vennpair.standins.campus.sample import copy_content


class Command(BaseCommand):
    """What the target held is replaced."""

    help = "Copy a shell's outline and columns into another shell."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--source", required=True, help="context id")
        parser.add_argument("--target", required=True, help="context id")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        count = copy_content(
            Shell.objects.get(context_id=options["source"]),
            Shell.objects.get(context_id=options["target"]),
        )
        self.stdout.write(str(count))
