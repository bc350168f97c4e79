"""Secrets at rest, encrypted again with the first key of the settings, so that an old one can go."""

from __future__ import annotations

from collections.abc import Iterator

from cryptography.fernet import InvalidToken
from django.apps import apps
from django.db import transaction

from vennpair.service.connect.secrets import seal, unseal

# All columns that hold what ``seal`` made.
SEALED = {
    "connect.SigningKey": ("secret",),
    "connect.Publisher": ("shared_secret", "oneroster_secret"),
    "connect.CollegeSignIn": ("secret",),
    "connect.SecondFactor": ("key",),
}


def reencrypt() -> tuple[int, list[str]]:
    """Seal every secret again; return how many, and which could be opened with no key (they stay)."""
    count, closed = 0, []
    for name, primary, columns in _rows():
        with transaction.atomic():
            row = apps.get_model(name).objects.select_for_update().get(pk=primary)
            for column in columns:
                sealed = getattr(row, column)
                if not sealed:
                    continue
                try:
                    setattr(row, column, seal(unseal(sealed)))
                except InvalidToken:
                    closed.append(f"{column} of {name.split('.')[1]} {primary}")
                    continue
                count += 1
            row.save(update_fields=columns)
    return count, closed


def _rows() -> Iterator[tuple[str, object, tuple[str, ...]]]:
    for name, columns in SEALED.items():
        for primary in apps.get_model(name).objects.order_by("pk").values_list("pk", flat=True):
            yield name, primary, columns
