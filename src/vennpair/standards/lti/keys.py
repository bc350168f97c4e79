"""Signing keys and key sets (1EdTech Security Framework 1.0, section 6: RS256, JWKS)."""

from __future__ import annotations

from typing import Any

from joserfc.jwk import KeySet, RSAKey

Json = dict[str, Any]


def new_private_pem() -> tuple[str, str]:
    """Make an RSA key of 2048 bits; return its key id (RFC 7638 thumbprint) and private PEM."""
    key = RSAKey.generate_key(2048, private=True, auto_kid=True)
    return str(key.kid), key.as_pem(private=True).decode()


def private_key(kid: str, pem: str) -> RSAKey:
    """Load a private PEM under its key id."""
    return RSAKey.import_key(pem, {"kid": kid, "use": "sig", "alg": "RS256"})


def public_jwks(keys: list[RSAKey]) -> Json:
    """Return the JSON Web Key Set that publishes the public halves."""
    return {"keys": [dict(key.as_dict(private=False), use="sig", alg="RS256") for key in keys]}


def read_jwks(document: Json) -> KeySet:
    """Read a key set, leaving out keys that are no RSA signature keys.

    Raises ValueError where the document holds no usable key at all.
    """
    entries = document.get("keys") if isinstance(document, dict) else None
    if not isinstance(entries, list):
        raise ValueError("the document has no list 'keys'")
    usable = [
        k
        for k in entries
        if isinstance(k, dict) and k.get("kty") == "RSA" and k.get("use", "sig") == "sig"
    ]
    if not usable:
        raise ValueError("the key set holds no RSA signature key")
    return KeySet(
        [
            RSAKey.import_key({k: v for k, v in entry.items() if k in {"kty", "n", "e", "kid"}})
            for entry in usable
        ]
    )
