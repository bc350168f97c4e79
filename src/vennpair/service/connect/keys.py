"""Our own signing keys: the newest signs, all are published."""

from __future__ import annotations

from joserfc.jwk import RSAKey

from vennpair.service.connect.models import SigningKey
from vennpair.service.connect.secrets import seal, unseal
from vennpair.standards.lti.keys import new_private_pem, private_key


def make_key() -> SigningKey:
    """Make and store a new key."""
    kid, pem = new_private_pem()
    return SigningKey.objects.create(kid=kid, secret=seal(pem))


def published_keys() -> list[RSAKey]:
    """Return all keys, newest first."""
    return [private_key(row.kid, unseal(row.secret)) for row in SigningKey.objects.order_by("-id")]


def signing_key() -> RSAKey:
    """Return the key that signs. Raises LookupError before ``manage install`` has made one."""
    keys = published_keys()
    if not keys:
        raise LookupError("there is no signing key yet; run 'manage install'")
    return keys[0]
