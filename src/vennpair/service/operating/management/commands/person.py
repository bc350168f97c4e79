"""List people who sign in, or end or give back somebody's access."""

from __future__ import annotations

from typing import Any

from django.core.management.base import CommandError, CommandParser

from vennpair.service.connect.actions.block_person import block_person
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.operator import OperatorCommand


class Command(OperatorCommand):
    """For an operator; administrators do it under Connections or with 'vennpair people'."""

    help = "List the people who sign in, deactivate somebody everywhere at once, or activate again."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("way", choices=("list", "deactivate", "activate"))
        parser.add_argument("name", nargs="?", default="", help="user name or email address")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        if options["way"] == "list":
            self.say(_line(each) for each in _people().order_by("institution__name", "username"))
            return
        name = options["name"]
        if not name:
            raise CommandError("Name the person; 'vennpair-server person list' shows all.")
        person = _people().filter(username=name).first() or _people().filter(email=name).first()
        if person is None:
            raise CommandError(f"Nobody has the user name or address '{name}'.")
        blocked = options["way"] == "deactivate"
        try:
            block_person(person, None, blocked=blocked)
        except Refused as error:
            raise CommandError(f"{error.message} {error.remedy}") from error
        if blocked:
            self.say(f"{person.username} can no longer sign in; sessions and tokens are ended.")
        else:
            self.say(f"{person.username} may sign in again.")


def _people() -> Any:
    return User.objects.select_related("institution")


def _line(person: User) -> str:
    role = "administrator" if person.is_staff else "designer" if person.is_designer else "teacher"
    where = person.institution.name if person.institution else "no institution"
    return f"{person.username}\t{role}\t{where}\t{'active' if person.is_active else 'blocked'}"
