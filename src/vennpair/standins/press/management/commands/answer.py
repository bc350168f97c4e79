"""Let somebody answer an item without a browser; reported like any other answer, or lost on the way."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils import timezone

from vennpair.standins.press.lti.reports import report
from vennpair.standins.press.models import Account, Attempt, Item


class Command(BaseCommand):
    """The newest answer counts."""

    help = "Make an attempt."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        for name in ("course", "email", "item", "score"):
            parser.add_argument(f"--{name}", required=True)
        parser.add_argument("--lost", action="store_true", help="do not report it")

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        item = Item.objects.filter(unit__course__sourced_id=options["course"], title=options["item"]).first()
        account = Account.objects.filter(email=options["email"]).first()
        if item is None or account is None:
            raise CommandError("there is no such item in the course, or no such account")
        attempt = Attempt.objects.create(item=item, account=account, score=Decimal(options["score"]), at=timezone.now())
        if not options["lost"]:
            report(attempt)
            if attempt.trouble:
                raise CommandError(attempt.trouble)
