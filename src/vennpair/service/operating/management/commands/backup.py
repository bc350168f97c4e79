"""Copy the whole database into one file."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import CommandError, CommandParser

from vennpair.service.kernel.operator import OperatorCommand
from vennpair.service.operating.copies import NoCopy, contents, make_copy


class Command(OperatorCommand):
    """May run at any time, beside the service."""

    help = "Copy the whole database into one file, cartridges too; the keys are not in it."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("file", type=Path, help="such as vennpair-2027-01-11.dump")
        parser.add_argument("--replace", action="store_true", help="replace a file that is there")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        counted = contents()
        try:
            size = make_copy(options["file"], replace=options["replace"])
        except NoCopy as error:
            raise CommandError(str(error)) from error
        self.say(f"{options['file']}: {size:,} bytes, checked to be readable.")
        self.say(f"In it: {', '.join(f'{name}: {count:,}' for name, count in counted.items())}.")
        self.say(
            "Keep VENNPAIR_SECRETS_KEYS too, in another place: without it nobody can open the"
            " secrets in this file."
        )
