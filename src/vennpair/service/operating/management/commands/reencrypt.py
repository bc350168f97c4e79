"""Encrypt all secrets again, with the first key."""

from __future__ import annotations

from typing import Any

from django.core.management.base import CommandError

from vennpair.core.counting import many
from vennpair.service.kernel.operator import OperatorCommand
from vennpair.service.operating.reencrypting import reencrypt


class Command(OperatorCommand):
    """Safe to repeat, and while the service runs with the new and the old key."""

    help = "Encrypt all stored secrets with the first of VENNPAIR_SECRETS_KEYS."

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        count, closed = reencrypt()
        self.say(f"{many(count, 'secret is', 'secrets are')} encrypted with the first key.")
        if closed:
            raise CommandError(
                f"{many(len(closed), 'secret')} could not be opened with any key and stays as it"
                f" is: {'; '.join(closed)}. Add the key that it was encrypted with."
            )
        self.say("The other keys of VENNPAIR_SECRETS_KEYS may go.")
