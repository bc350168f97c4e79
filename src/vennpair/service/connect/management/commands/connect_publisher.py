"""Register a publisher: without a card, print ours for it; with its card on standard input, store that."""

from __future__ import annotations

import json
import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vennpair.service.connect.actions.register_publisher import publisher_card, register_publisher
from vennpair.service.connect.models import Institution


class Command(BaseCommand):
    """Two steps, because each side must know the other's values."""

    help = "Register a publisher."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--institution", required=True)
        parser.add_argument("--name", required=True)
        parser.add_argument("--card", action="store_true", help="read the publisher's card from standard input")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        institution = Institution.objects.get(name=options["institution"])
        if options["card"]:
            register_publisher(institution, options["name"], json.load(sys.stdin))
        else:
            self.stdout.write(json.dumps(publisher_card(institution, options["name"])))
