"""Register a platform and an API client at the press; print what the platform must know, as JSON."""

from __future__ import annotations

import json
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from vennpair.standins.press.models import ApiClient, Platform


class Command(BaseCommand):
    """Registering the same issuer again changes the entry."""

    help = "Register an LTI platform with OneRoster access."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        for name in ("issuer", "client-id", "deployment-id", "authorization-url", "token-url", "jwks-url"):
            parser.add_argument(f"--{name}", required=True)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        fields = {name: options[name] for name in ("client_id", "deployment_id", "authorization_url", "token_url", "jwks_url")}
        Platform.objects.update_or_create(issuer=options["issuer"], defaults=fields)
        client, _ = ApiClient.objects.get_or_create(name=options["issuer"])
        base = settings.BASE_URL
        card = {"login_url": f"{base}/lti/login", "launch_url": f"{base}/lti/launch", "jwks_url": f"{base}/lti/jwks"}
        card |= {"oneroster_url": base, "oneroster_token_url": f"{base}/oauth/token", "oneroster_client_id": client.client_id, "oneroster_secret": client.secret}
        self.stdout.write(json.dumps(card))
