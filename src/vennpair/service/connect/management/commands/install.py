"""Prepare a new service: an institution, an administrator, a signing key."""

from __future__ import annotations

import sys
from typing import Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.core.exceptions import ValidationError
from django.core.management.base import CommandError, CommandParser
from django.core.validators import validate_email
from django.db import transaction

from vennpair.service.connect.actions.sign_ins import check_password_rules
from vennpair.service.connect.keys import make_key
from vennpair.service.connect.models import Institution, SigningKey, User
from vennpair.service.kernel.operator import OperatorCommand


class Command(OperatorCommand):
    """Safe to repeat; what is there already stays."""

    help = "Make the first institution, administrator and signing key."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--institution", required=True)
        parser.add_argument("--timezone", default="UTC", help="such as America/Chicago")
        parser.add_argument("--admin", required=True, help="email address")
        how = parser.add_mutually_exclusive_group(required=True)
        how.add_argument(
            "--password", help="of the administrator; others can read it in the list of processes"
        )
        how.add_argument(
            "--password-stdin", action="store_true", help="read it from standard input"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        """Run, and say what was made and what was there; all of it or nothing."""
        with transaction.atomic():
            said = self._install(options)
        for each in said:
            self.stdout.write(each)

    def _install(self, options: dict[str, Any]) -> list[str]:
        name, admin = options["institution"].strip(), options["admin"].strip()
        _require_zone(options["timezone"])
        try:
            validate_email(admin)
        except ValidationError as error:
            raise CommandError(f"'{admin}' is not an email address.") from error
        institution, made = Institution.objects.get_or_create(
            name=name, defaults={"timezone": options["timezone"]}
        )
        said = [
            _said(f"institution '{name}', times in {institution.timezone}", made),
            _said("signing key", not SigningKey.objects.exists() and bool(make_key())),
        ]
        person = User.objects.filter(username=admin).first()
        if person is None:
            password = (
                sys.stdin.readline().rstrip("\r\n")
                if options["password_stdin"]
                else options["password"]
            )
            check_password_rules(password, User(username=admin))
            User.objects.create_user(admin, admin, password, institution=institution, is_staff=True)
        elif not person.is_staff or person.institution_id != institution.pk:
            words = f"{admin} is there already, but no administrator of '{name}'; left as it is"
            return [*said, words]
        return [*said, _said(f"administrator {admin}", person is None)]


def _said(what: str, made: bool) -> str:
    return f"{what}: {'made' if made else 'there already, left as it is'}"


def _require_zone(name: str) -> None:
    try:
        ZoneInfo(name)
    except (ValueError, ZoneInfoNotFoundError) as error:
        raise CommandError(
            f"'{name}' is not a time zone. Write it as America/Chicago or Europe/London."
        ) from error
