"""Keep every outgoing call back, or let them go again."""

from __future__ import annotations

from typing import Any

from django.core.management.base import CommandParser

from vennpair.service.kernel.hold.state import put_on, state, take_off
from vennpair.service.kernel.operator import OperatorCommand


class Command(OperatorCommand):
    """All processes on all machines know within a moment."""

    help = "Keep every outgoing call and mail back, let them go again, or say which it is."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument(
            "way", nargs="?", choices=("on", "off", "status"), default="status", metavar="on|off"
        )
        parser.add_argument("--why", default="", help="is shown to everyone while it lasts")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        if options["way"] == "on":
            put_on(options["why"])
        if options["way"] == "off":
            take_off()
        row, why = state()
        if not why:
            self.say("No hold: outgoing calls and mails are made.")
            return
        since = f" since {row.since:%Y-%m-%d %H:%M} UTC" if row.since else ""
        self.say(
            f"On hold{since}: {why}. Scores are still received and kept; they go out once you end it"
            " with: vennpair-server hold off"
        )
