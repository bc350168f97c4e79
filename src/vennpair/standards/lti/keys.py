"""Signing keys and key sets (1EdTech Security Framework 1.0, section 6: RS256, JWKS)."""

from __future__ import annotations

from contextlib import suppress
from functools import lru_cache
from typing import Any

from joserfc.errors import JoseError
from joserfc.jwk import ECKey, KeySet, OctKey, OKPKey, RSAKey

Json = dict[str, Any]


LEAST_BITS = 2048  # of a modulus (RFC 7518, 3.3)


def _bits(modulus: object) -> int:
    """Return about how many bits a modulus in base64url has."""
    return len(modulus.rstrip("=")) * 6 // 8 * 8 if isinstance(modulus, str) else 0


def new_private_pem() -> tuple[str, str]:
    """Make an RSA key of 2048 bits; return its key id (RFC 7638 thumbprint) and private PEM."""
    key = RSAKey.generate_key(2048, private=True, auto_kid=True)
    return str(key.kid), key.as_pem(private=True).decode()


@lru_cache(maxsize=32)  # loading checks the key's primes, which takes longer than signing with it
def private_key(kid: str, pem: str) -> RSAKey:
    """Load a private PEM under its key id."""
    return RSAKey.import_key(pem, {"kid": kid, "use": "sig", "alg": "RS256"})


def public_jwks(keys: list[RSAKey]) -> Json:
    """Return the JSON Web Key Set that publishes the public halves."""
    return {"keys": [dict(key.as_dict(private=False), use="sig", alg="RS256") for key in keys]}


def read_jwks(document: Json) -> KeySet:
    """Read a key set, leaving out keys that are no RSA signature keys of 2048 bits or more.

    Raises ValueError where the document holds no usable key at all.
    """
    entries = document.get("keys") if isinstance(document, dict) else None
    if not isinstance(entries, list):
        raise ValueError("the document has no list 'keys'")
    usable = [
        k
        for k in entries
        if isinstance(k, dict)
        and k.get("kty") == "RSA"
        and k.get("use", "sig") == "sig"
        and _bits(k.get("n")) >= LEAST_BITS
    ]
    keys: list[OctKey | RSAKey | ECKey | OKPKey] = []
    for entry in usable:
        with suppress(JoseError, ValueError, TypeError):  # a key without its numbers is none
            numbers = {k: v for k, v in entry.items() if k in {"kty", "n", "e", "kid"}}
            keys.append(RSAKey.import_key(numbers))
    if not keys:
        raise ValueError("the key set holds no RSA signature key")
    return KeySet(keys)
