"""Make a one-time registration token and print it with the campus's configuration address,
as JSON.
"""

from __future__ import annotations

import json
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from vennpair.standins.campus.models import RegistrationToken


class Command(BaseCommand):
    """What the campus's page for tools does, without a browser."""

    help = "Make a registration token."

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        token = RegistrationToken.objects.create()
        self.stdout.write(
            json.dumps(
                {
                    "openid_configuration": f"{settings.BASE_URL}/.well-known/openid-configuration",
                    "registration_token": token.value,
                }
            )
        )
