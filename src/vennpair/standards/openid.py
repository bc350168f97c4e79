"""Signing in at an OpenID provider: the code flow of OpenID Connect Core 1.0 (3.1) with PKCE
(RFC 7636), and where a provider says its addresses (Discovery 1.0, 4).
"""

from __future__ import annotations

import base64
import hashlib
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode, urlsplit

Json = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Provider:
    """Where a provider is asked."""

    issuer: str
    authorization_endpoint: str
    token_endpoint: str
    jwks_uri: str


@dataclass(frozen=True, slots=True)
class SignedIn:
    """Whom a provider signed in; ``email`` is empty where it does not vouch for it."""

    subject: str
    email: str = ""
    given_name: str = ""
    family_name: str = ""


def description_url(issuer: str) -> str:
    """Return where a provider describes itself (Discovery 4)."""
    return f"{issuer.rstrip('/')}/.well-known/openid-configuration"


def read_provider(document: object, issuer: str) -> Provider:
    """Read a provider's description. Raises ValueError naming what is wrong (Discovery 4.3)."""
    facts = document if isinstance(document, dict) else {}
    if facts.get("issuer") != issuer:
        raise ValueError(f"it calls itself {str(facts.get('issuer'))[:100]!r}, not {issuer!r}")
    addresses = []
    for name in ("authorization_endpoint", "token_endpoint", "jwks_uri"):
        value = facts.get(name)
        if not isinstance(value, str) or urlsplit(value).scheme not in {"http", "https"}:
            raise ValueError(f"it names no {name}")
        addresses.append(value)
    return Provider(issuer, *addresses)


def asking_url(
    provider: Provider, client_id: str, back: str, state: str, nonce: str, verifier: str
) -> str:
    """Return where a browser is sent to sign in (Core 3.1.2.1; RFC 7636, 4.3)."""
    digest = hashlib.sha256(verifier.encode()).digest()
    asked = {
        "response_type": "code",
        "scope": "openid email profile",
        "client_id": client_id,
        "redirect_uri": back,
        "state": state,
        "nonce": nonce,
        "code_challenge": base64.urlsafe_b64encode(digest).rstrip(b"=").decode(),
        "code_challenge_method": "S256",
    }
    joined = "&" if urlsplit(provider.authorization_endpoint).query else "?"
    return f"{provider.authorization_endpoint}{joined}{urlencode(asked)}"


def token_request(code: str, back: str, verifier: str) -> dict[str, str]:
    """Return the fields that change a code for tokens (Core 3.1.3.1; RFC 7636, 4.5)."""
    return {
        "grant_type": "authorization_code",
        "code": code,
        "redirect_uri": back,
        "code_verifier": verifier,
    }


def read_id_token(document: object) -> str:
    """Return the ID token of a token answer (Core 3.1.3.3). Raises ValueError where it has none."""
    token = document.get("id_token") if isinstance(document, dict) else None
    if not isinstance(token, str):
        raise ValueError("its answer holds no ID token")
    return token


def read_signed_in(claims: Mapping[str, Any], nonce: str) -> SignedIn:
    """Read the claims of a verified ID token (Core 2 and 5.1). Raises ValueError."""
    if claims.get("nonce") != nonce:
        raise ValueError("the answer belongs to another sign-in")
    subject = claims.get("sub")
    if not isinstance(subject, str) or not 0 < len(subject) <= 255:
        raise ValueError("the answer names nobody")
    email = claims.get("email") if claims.get("email_verified") is True else ""
    names = (claims.get("given_name"), claims.get("family_name"))
    return SignedIn(subject, _text(email, 150), *(_text(name, 150) for name in names))


def _text(value: object, longest: int) -> str:
    return value if isinstance(value, str) and len(value) <= longest else ""
