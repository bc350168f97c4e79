"""Make one more homework course, for a trial run; print it as JSON."""

from __future__ import annotations

import json
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vennpair.standins.press.sample import add_trial_course


class Command(BaseCommand):
    """Every run makes another course."""

    help = "Make one more homework course with six learners."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--code", default="HYD 210-TRY")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        self.stdout.write(json.dumps(add_trial_course(options["code"])))
