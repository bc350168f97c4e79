"""Lay the campus's sample data."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from vennpair.standins.campus.sample import seed


class Command(BaseCommand):
    """Safe to repeat."""

    help = "Lay the sample shells and people."

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        seed()
