"""Signed tokens: making them, and taking them apart with every check the framework asks for."""

from __future__ import annotations

import base64
import binascii
from typing import Any

from joserfc import jwt
from joserfc.errors import JoseError
from joserfc.jwk import KeySet, RSAKey

from vennpair.standards.json_text import read_json
from vennpair.standards.lti.errors import LtiError

Json = dict[str, Any]
SKEW_SECONDS = 60
LONGEST_TOKEN = 64_000


def sign(claims: Json, key: RSAKey) -> str:
    """Sign claims with RS256 under the key's id."""
    return jwt.encode({"alg": "RS256", "kid": key.kid, "typ": "JWT"}, claims, key)


def unverified(token: str) -> tuple[Json, Json]:
    """Return header and claims of a token without trusting either.

    Only for choosing whose keys to verify with. Raises LtiError ``bad_token``.
    """
    parts = token.split(".") if isinstance(token, str) and len(token) <= LONGEST_TOKEN else []
    if len(parts) != 3:
        raise LtiError("bad_token", "The signed message is not a JSON Web Token.", "RFC 7519, 7.2")
    try:
        texts = [base64.urlsafe_b64decode(part + "=" * (-len(part) % 4)) for part in parts[:2]]
        header, claims = map(read_json, texts)
    except (binascii.Error, ValueError) as error:
        raise LtiError(
            "bad_token", "The signed message cannot be decoded.", "RFC 7519, 7.2"
        ) from error
    if not isinstance(header, dict) or not isinstance(claims, dict):
        raise LtiError("bad_token", "The signed message is not an object.", "RFC 7519, 7.2")
    return header, claims


def verify(token: str, keys: KeySet, *, issuer: str, audience: str, now: int) -> Json:
    """Check signature, algorithm, issuer, audience, authorised party and times; return the claims.

    ``now`` is in seconds since the epoch; 60 s of skew are allowed (Security Framework 5.1.3).
    Raises LtiError with one of ``bad_token``, ``bad_algorithm``, ``unknown_key``,
    ``bad_signature``, ``wrong_issuer``, ``wrong_audience``, ``expired``, ``not_yet``.
    """
    header, _ = unverified(token)
    if header.get("alg") != "RS256":
        raise LtiError(
            "bad_algorithm", "The message is not signed with RS256.", "Security Framework 5.1.3"
        )
    kid = header.get("kid")
    if not isinstance(kid, str) or not any(key.kid == kid for key in keys.keys):
        raise LtiError(
            "unknown_key",
            "The message is signed with a key that the sender does not publish.",
            "Security Framework 6.3",
        )
    try:
        claims: Json = jwt.decode(token, keys, algorithms=["RS256"]).claims
    except (JoseError, ValueError) as error:
        raise LtiError(
            "bad_signature",
            "The signature of the message is not right.",
            "Security Framework 5.1.3",
        ) from error
    _check_parties(claims, issuer, audience)
    _check_times(claims, now)
    return claims


def _check_parties(claims: Json, issuer: str, audience: str) -> None:
    if claims.get("iss") != issuer:
        raise LtiError(
            "wrong_issuer",
            "The message comes from another sender than the registered one.",
            "Security Framework 5.1.3",
        )
    named = claims.get("aud")
    audiences = named if isinstance(named, list) else [named]
    if audience not in audiences:
        raise LtiError(
            "wrong_audience", "The message was made for somebody else.", "Security Framework 5.1.3"
        )
    if len(audiences) > 1 and "azp" not in claims:
        raise LtiError(
            "wrong_audience",
            "The message names several receivers and no authorised party.",
            "OpenID Connect Core 3.1.3.7",
        )
    if "azp" in claims and claims["azp"] != audience:
        raise LtiError(
            "wrong_audience", "The message authorises another party.", "OpenID Connect Core 3.1.3.7"
        )


def _check_times(claims: Json, now: int) -> None:
    expires, issued = claims.get("exp"), claims.get("iat")
    for value in (expires, issued):
        if isinstance(value, bool) or not isinstance(value, (int, float)):
            raise LtiError(
                "bad_token", "The message lacks its times (exp, iat).", "Security Framework 5.1.2"
            )
    if expires <= now - SKEW_SECONDS:  # type: ignore[operator]
        raise LtiError("expired", "The message has expired.", "Security Framework 5.1.3")
    if issued > now + SKEW_SECONDS:  # type: ignore[operator]
        raise LtiError(
            "not_yet",
            "The message is dated in the future; one of the two clocks is wrong.",
            "Security Framework 5.1.3",
        )
