"""Let somebody answer an item without a browser.

Reported like any other answer, or lost on the way.
"""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from vennpair.standins.press.sample import answer_item


class Command(BaseCommand):
    """The newest answer counts."""

    help = "Make an attempt."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        for name in ("course", "email", "item", "score"):
            parser.add_argument(f"--{name}", required=True)
        parser.add_argument("--lost", action="store_true", help="do not report it")
        parser.add_argument(
            "--regrade", action="store_true", help="change the score of the newest answer instead"
        )
        parser.add_argument(
            "--delete", action="store_true", help="take the newest answer back instead"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        asked = {name: options[name] for name in ("lost", "regrade", "delete")}
        places = (options[name] for name in ("course", "email", "item", "score"))
        try:
            answer_item(*places, **asked)
        except LookupError as error:
            raise CommandError(str(error)) from error
