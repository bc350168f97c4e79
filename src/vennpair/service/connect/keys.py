"""Our own signing keys: published before they sign, and for a while after they signed last."""

from __future__ import annotations

from datetime import timedelta
from functools import lru_cache

from django.db.models import Q
from django.utils import timezone
from joserfc.jwk import RSAKey

from vennpair.service.connect.models import SigningKey
from vennpair.service.connect.secrets import seal, unseal
from vennpair.standards.lti.keys import new_private_pem, private_key

# Other sides keep a key set for hours, some for a day: a new key waits two days before it signs.
AHEAD = timedelta(days=2)
AFTER = timedelta(days=7)
LIFE = timedelta(days=90)


def make_key(ahead: timedelta = timedelta()) -> SigningKey:
    """Make and store a new key that signs from ``ahead`` on."""
    kid, pem = new_private_pem()
    return SigningKey.objects.create(kid=kid, secret=seal(pem), signs_from=timezone.now() + ahead)


def published_keys() -> list[RSAKey]:
    """Return all keys that are in force or about to be, newest first."""
    rows = SigningKey.objects.filter(Q(ends_at=None) | Q(ends_at__gt=timezone.now())).order_by(
        "-id"
    )
    return [_loaded(row.kid, row.secret) for row in rows]


def signing_row() -> SigningKey:
    """Return the newest key whose time has come.

    Raises LookupError before ``manage install`` has made one.
    """
    now = timezone.now()
    row = (
        SigningKey.objects.filter(Q(ends_at=None) | Q(ends_at__gt=now), signs_from__lte=now)
        .order_by("-signs_from", "-id")
        .first()
    )
    if row is None:
        raise LookupError("there is no signing key yet; run 'manage install'")
    return row


def signing_key() -> RSAKey:
    """Return the key that signs now. Raises LookupError."""
    row = signing_row()
    return _loaded(row.kid, row.secret)


@lru_cache(maxsize=16)
def _loaded(kid: str, sealed: str) -> RSAKey:
    """Decrypting and parsing a key costs more than signing with it, and every launch signs."""
    return private_key(kid, unseal(sealed))
