"""Secrets at rest: encrypted with the first key of the settings, read with any of them."""

from __future__ import annotations

from functools import cache

from cryptography.fernet import Fernet, MultiFernet
from django.conf import settings


@cache
def _box() -> MultiFernet:
    return MultiFernet([Fernet(key) for key in settings.SECRETS_KEYS])


def seal(text: str) -> str:
    """Encrypt a secret for the database."""
    return _box().encrypt(text.encode()).decode()


def unseal(sealed: str) -> str:
    """Decrypt a secret. Raises cryptography's InvalidToken where no key of the settings fits."""
    return _box().decrypt(sealed.encode()).decode()
