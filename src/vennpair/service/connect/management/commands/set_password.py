"""Give somebody who has launched before a password for the command line."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from vennpair.service.connect.actions.sign_ins import change_password, check_password_rules
from vennpair.service.connect.models import User


class Command(BaseCommand):
    """People can also set it themselves in the console."""

    help = "Set a person's password."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("username")
        parser.add_argument("--password", required=True)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        user = User.objects.filter(username=options["username"]).first()
        if user is None:
            raise CommandError(
                f"{options['username']} is not known; they must open Venn Pair from their shell"
                " once."
            )
        if not user.check_password(
            options["password"]
        ):  # the same one again must not end the person's sessions
            check_password_rules(options["password"], user)
            change_password(user, options["password"])
