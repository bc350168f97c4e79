"""Register a tool at the campus and print what the tool must know, as JSON."""

from __future__ import annotations

import json
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from vennpair.standins.campus.models import Tool


class Command(BaseCommand):
    """Registering the same launch address again changes the entry."""

    help = "Register an LTI tool."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        for name in ("name", "login-url", "launch-url", "jwks-url"):
            parser.add_argument(f"--{name}", required=True)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        fields = {"login_url": options["login_url"], "launch_url": options["launch_url"], "jwks_url": options["jwks_url"], "redirect_uris": [options["launch_url"]]}
        tool, _ = Tool.objects.update_or_create(name=options["name"], defaults=fields)
        base = settings.BASE_URL
        card = {"issuer": base, "client_id": tool.client_id, "deployment_id": tool.deployment_id}
        card |= {"authorization_url": f"{base}/lti/authorize", "token_url": f"{base}/lti/token", "jwks_url": f"{base}/lti/jwks"}
        self.stdout.write(json.dumps(card))
