"""Make one more shell with learners, for a trial run; print its address as JSON."""

from __future__ import annotations

import json
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vennpair.standins.campus.sample import add_trial_shell


class Command(BaseCommand):
    """Every run makes another shell."""

    help = "Make one more shell with six learners."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--label", default="HYD 210-TRY")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        self.stdout.write(json.dumps(add_trial_shell(options["label"])))
