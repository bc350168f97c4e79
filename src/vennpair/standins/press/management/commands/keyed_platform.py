"""Make a key and secret for a platform that launches by LTI 1.1; print them as JSON."""

from __future__ import annotations

import json
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from vennpair.standins.press.models import KeyedPlatform


class Command(BaseCommand):
    """Every run makes another key."""

    help = "Make a key and secret."

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        made = KeyedPlatform.objects.create()
        self.stdout.write(
            json.dumps(
                {
                    "key": made.key,
                    "shared_secret": made.secret,
                    "launch_url": f"{settings.BASE_URL}/lti/launch-by-key",
                }
            )
        )
