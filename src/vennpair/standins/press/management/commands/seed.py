"""Lay the press's sample data."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from vennpair.standins.press.sample import seed


class Command(BaseCommand):
    """Safe to repeat."""

    help = "Lay the sample courses and accounts."

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        seed()
