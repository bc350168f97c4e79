"""Register a platform from its card (JSON on standard input)."""

from __future__ import annotations

import json
import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vennpair.service.connect.actions.register_platform import register_platform
from vennpair.service.connect.models import Institution


class Command(BaseCommand):
    """The card has issuer, client_id, deployment_id, authorization_url, token_url, jwks_url."""

    help = "Register a course platform."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--institution", required=True)
        parser.add_argument("--name", required=True)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        institution = Institution.objects.get(name=options["institution"])
        register_platform(institution, options["name"], json.load(sys.stdin))
