"""Let somebody answer an item without a browser.

Reported like any other answer, or lost on the way.
"""

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
        parser.add_argument(
            "--regrade", action="store_true", help="change the score of the newest answer instead"
        )
        parser.add_argument(
            "--delete", action="store_true", help="take the newest answer back instead"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        item = Item.objects.filter(
            unit__course__sourced_id=options["course"], title=options["item"]
        ).first()
        account = Account.objects.filter(email=options["email"]).first()
        if item is None or account is None:
            raise CommandError("there is no such item in the course, or no such account")
        attempt = (
            Attempt.objects.filter(item=item, account=account, deleted=False)
            .order_by("-at")
            .first()
            if options["regrade"] or options["delete"]
            else Attempt(item=item, account=account, at=timezone.now())
        )
        if attempt is None:
            raise CommandError("there is no answer to change")
        attempt.score, attempt.deleted = Decimal(options["score"]), options["delete"]
        attempt.regraded = timezone.now() if attempt.pk else None
        attempt.save()
        if not options["lost"]:
            report(attempt)
            if attempt.trouble:
                raise CommandError(attempt.trouble)
