"""Make one more shell with learners, for a trial run; print its address as JSON."""

from __future__ import annotations

import json
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vennpair.standins import tarnfield
from vennpair.standins.campus.models import new_id
from vennpair.standins.campus.sample import enrol, make_shell


class Command(BaseCommand):
    """Every run makes another shell."""

    help = "Make one more shell with six learners."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--label", default="HYD 210-TRY")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        shell = make_shell(
            options["label"], tarnfield.TERM, context_id=f"tarnfield-{new_id()[:12]}"
        )
        enrol(shell, tarnfield.section(2)[:6])
        self.stdout.write(
            json.dumps(
                {
                    "context_id": shell.context_id,
                    "label": shell.label,
                    "learner": tarnfield.section(2)[0].email,
                }
            )
        )
