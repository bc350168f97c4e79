"""Make one more homework course, for a trial run; print it as JSON."""

from __future__ import annotations

import json
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vennpair.standins import tarnfield
from vennpair.standins.press.models import new_id
from vennpair.standins.press.sample import make_course


class Command(BaseCommand):
    """Every run makes another course."""

    help = "Make one more homework course with six learners."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--code", default="HYD 210-TRY")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        course = make_course(
            f"rg3-{new_id()[:8]}", options["code"], tarnfield.TERM, tarnfield.section(2)[:6]
        )
        self.stdout.write(
            json.dumps({"course": course.sourced_id, "title": course.title, "code": course.code})
        )
