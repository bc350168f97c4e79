"""Give somebody who has launched before a password for the command line."""

from __future__ import annotations

import sys
from typing import Any

from django.core.management.base import CommandError, CommandParser

from vennpair.service.connect.actions.sign_ins import change_password, check_password_rules
from vennpair.service.connect.models import User
from vennpair.service.kernel.operator import OperatorCommand


class Command(OperatorCommand):
    """People can also set it themselves in the console."""

    help = "Set a person's password."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("username")
        how = parser.add_mutually_exclusive_group(required=True)
        how.add_argument("--password", help="others can read it in the list of processes")
        how.add_argument(
            "--password-stdin", action="store_true", help="read it from standard input"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        password = options["password"]
        if options["password_stdin"]:
            password = sys.stdin.readline().rstrip("\r\n")
        user = User.objects.filter(username=options["username"]).first()
        if user is None:
            raise CommandError(
                f"{options['username']} is not known; they must open Venn Pair from their shell"
                " once."
            )
        if user.check_password(password):  # the same one again must not end their sessions
            self.say(f"{user.username} has that password already; nothing was changed.")
            return
        check_password_rules(password, user)
        change_password(user, password)
        self.say(f"{user.username} has the new password; older sessions and tokens are ended.")
