"""Make an account for a program, and a token that may do what it is for."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.core.management.base import CommandError, CommandParser
from django.db import transaction

from vennpair.service.connect.actions.make_token import make_token
from vennpair.service.connect.models import Institution, User
from vennpair.service.connect.permissions import SCOPES
from vennpair.service.connect.sessions import end_tokens
from vennpair.service.kernel.operator import OperatorCommand

DAYS = 365


class Command(OperatorCommand):
    """It belongs to nobody, so it outlives whoever set it up; it sees all shells of its
    institution.
    """

    help = (
        "Make an account for a program, which sees all shells of its institution, and a token for"
        " it. Again it makes a new token, and the old ones end."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("name", help="what it is for, such as nightly-export")
        parser.add_argument("--institution", default="", help="its name, where there are several")
        parser.add_argument(
            "--scope",
            action="append",
            choices=sorted(SCOPES),
            default=[],
            help="what it may do: "
            + "; ".join(f"{name}: {words}" for name, words in SCOPES.items())
            + ". May be repeated; left out: read",
        )
        parser.add_argument("--days", type=int, default=DAYS, help=f"of its life; default: {DAYS}")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        name, college = options["name"].strip(), self._college(options["institution"])
        if not name or options["days"] < 1:
            raise CommandError("Give a name, and a life of a day or more.")
        scopes = options["scope"] or ["read"]
        with transaction.atomic():
            account, made = User.objects.get_or_create(
                username=f"service:{name}",
                defaults={"institution": college, "is_designer": True, "digest": User.Digest.NEVER},
            )
            if account.institution_id != college.pk:
                raise CommandError(f"'{name}' is an account of another institution.")
            if made:
                account.set_unusable_password()
            account.is_active = True
            account.save()
            end_tokens(account)
            _, value = make_token(account, None, name, scopes, timedelta(days=options["days"]))
        self.stderr.write(
            f"{account.username} of {college.name}: {'made' if made else 'older tokens are ended'}."
            f" Its token may {', '.join(scopes)}, for {options['days']} days. It is shown this once."
        )
        self.say(value)

    def _college(self, name: str) -> Institution:
        found = list(Institution.objects.filter(**({"name": name} if name else {})))
        if len(found) != 1:
            known = ", ".join(f"'{each.name}'" for each in Institution.objects.order_by("name"))
            raise CommandError(f"Say which with --institution: {known or 'there is none yet'}.")
        return found[0]
