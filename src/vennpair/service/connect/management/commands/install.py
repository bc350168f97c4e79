"""Prepare a new service: an institution, an administrator, a signing key."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vennpair.service.connect.actions.sign_ins import check_password_rules
from vennpair.service.connect.keys import make_key
from vennpair.service.connect.models import Institution, SigningKey, User


class Command(BaseCommand):
    """Safe to repeat; what is there already stays."""

    help = "Make the first institution, administrator and signing key."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("--institution", required=True)
        parser.add_argument("--timezone", default="UTC")
        parser.add_argument("--admin", required=True, help="email address")
        parser.add_argument("--password", required=True)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        institution, _ = Institution.objects.get_or_create(
            name=options["institution"], defaults={"timezone": options["timezone"]}
        )
        if not SigningKey.objects.exists():
            make_key()
        if not User.objects.filter(username=options["admin"]).exists():
            check_password_rules(options["password"], User(username=options["admin"]))
            User.objects.create_user(
                options["admin"],
                options["admin"],
                options["password"],
                institution=institution,
                is_staff=True,
            )
