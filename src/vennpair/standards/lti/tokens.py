"""Access tokens for services: the client-credentials grant with a signed assertion (Security
Framework 4.1).
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from joserfc.jwk import KeySet, RSAKey

from vennpair.standards.lti import jwt
from vennpair.standards.lti.errors import LtiError

ASSERTION_TYPE = "urn:ietf:params:oauth:client-assertion-type:jwt-bearer"
LONGEST_LIFE_SECONDS = 3600


def token_request(
    client_id: str, audience: str, scopes: list[str], key: RSAKey, *, now: int, token_id: str
) -> dict[str, str]:
    """Return the form that asks a token endpoint for an access token.

    ``audience`` is its address unless the platform names another.
    """
    claims = {
        "iss": client_id,
        "sub": client_id,
        "aud": audience,
        "iat": now,
        "exp": now + 300,
        "jti": token_id,
    }
    return {
        "grant_type": "client_credentials",
        "client_assertion_type": ASSERTION_TYPE,
        "client_assertion": jwt.sign(claims, key),
        "scope": " ".join(scopes),
    }


def asserted_client(form: Mapping[str, str]) -> str:
    """Return the client id that a token request claims to come from, untrusted.

    Raises LtiError ``invalid_request`` or ``unsupported_grant_type`` (RFC 6749, 5.2).
    """
    if form.get("grant_type") != "client_credentials":
        raise LtiError(
            "unsupported_grant_type",
            "Only the client-credentials grant is offered.",
            "RFC 6749, 4.4",
        )
    if form.get("client_assertion_type") != ASSERTION_TYPE or not form.get("client_assertion"):
        raise LtiError(
            "invalid_request", "The request has no signed client assertion.", "RFC 7523, 2.2"
        )
    _, claims = jwt.unverified(form["client_assertion"])
    return str(claims.get("sub") or "")


def verify_assertion(
    form: Mapping[str, str], keys: KeySet, *, client_id: str, token_url: str, now: int
) -> tuple[str, list[str]]:
    """Check a token request; return the assertion's id (to be used once) and the scopes asked for.

    Raises LtiError ``invalid_client``.
    """
    try:
        claims: dict[str, Any] = jwt.verify(
            form["client_assertion"], keys, issuer=client_id, audience=token_url, now=now
        )
    except LtiError as error:
        raise LtiError(
            "invalid_client", f"The client assertion is refused. {error.message}", error.clause
        ) from error
    token_id = claims.get("jti")
    if claims.get("sub") != client_id or not isinstance(token_id, str) or not token_id:
        raise LtiError(
            "invalid_client", "The client assertion lacks its subject or its id.", "RFC 7523, 3"
        )
    if claims["exp"] - claims["iat"] > LONGEST_LIFE_SECONDS:
        raise LtiError(
            "invalid_client",
            "The client assertion lives longer than an hour.",
            "Security Framework 4.1.1",
        )
    return token_id, form.get("scope", "").split()
