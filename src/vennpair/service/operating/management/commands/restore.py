"""Fill an empty database from a copy."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import CommandError, CommandParser

from vennpair.service.connect.keys import signing_key
from vennpair.service.kernel.hold.state import put_on
from vennpair.service.kernel.operator import OperatorCommand
from vennpair.service.operating.copies import NoCopy, contents, restore_copy


class Command(OperatorCommand):
    """The result calls nobody until the operator ends its hold."""

    help = "Fill the empty database of the settings from a copy, and keep its calls back."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("file", type=Path, help="what 'vennpair-server backup' wrote")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        try:
            restore_copy(options["file"])
        except NoCopy as error:
            raise CommandError(str(error)) from error
        call_command("migrate", verbosity=0, interactive=False)
        put_on(f"it was restored from {options['file'].name}")
        counted = contents()
        self.say(f"Restored: {', '.join(f'{name}: {count:,}' for name, count in counted.items())}.")
        self.say(
            "Outgoing calls are kept back, so that two copies do not send the same scores. Where"
            " this one is to go on: vennpair-server hold off"
        )
        try:
            signing_key()
        except Exception as error:  # whatever a wrong key makes of a sealed text
            raise CommandError(
                "VENNPAIR_SECRETS_KEYS opens none of the secrets in it: give the keys with which it"
                " was running."
            ) from error
