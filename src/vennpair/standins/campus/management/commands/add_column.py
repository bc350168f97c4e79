"""Add a column of the instructor's own to a gradebook, with a score for every learner."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vennpair.standins.campus.models import Cell, Column, Shell


class Command(BaseCommand):
    """A column that no tool knows of."""

    help = "Add a column by hand."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--shell", required=True, help="context id")
        parser.add_argument("--label", required=True)
        parser.add_argument("--points", type=Decimal, default=Decimal(5))

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        shell = Shell.objects.get(context_id=options["shell"])
        column, _ = Column.objects.get_or_create(
            shell=shell, label=options["label"], defaults={"maximum": options["points"]}
        )
        for part in shell.enrolments.filter(role="learner"):
            Cell.objects.get_or_create(
                column=column,
                person=part.person,
                defaults={"score": options["points"], "by_hand": True},
            )
