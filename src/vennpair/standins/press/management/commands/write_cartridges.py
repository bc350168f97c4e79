"""Write sample cartridges into a folder: a course in full and thin, and one of another maker, with
troubles.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vennpair.standins.foreign import write_foreign
from vennpair.standins.press.cartridge import write_course
from vennpair.standins.press.models import Course


class Command(BaseCommand):
    """For trying imports by hand."""

    help = "Write sample cartridges into a folder."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("course", help="sourcedId of the course")
        parser.add_argument("folder", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        """Write."""
        course, folder = Course.objects.get(sourced_id=options["course"]), options["folder"]
        folder.mkdir(parents=True, exist_ok=True)
        with (folder / "rivers-full.imscc").open("wb") as target:
            write_course(course, target)
        with (folder / "rivers-thin.imscc").open("wb") as target:
            write_course(course, target, "thin")
        (folder / "field-station-foreign.imscc").write_bytes(write_foreign())
        self.stdout.write(f"three cartridges in {folder}")
