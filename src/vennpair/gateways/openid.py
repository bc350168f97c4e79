"""Asking a college's OpenID provider: its addresses, and who signed in there."""

from __future__ import annotations

import base64
import time
from urllib.parse import quote

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError, call
from vennpair.gateways.keysets import keys_for
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import verify
from vennpair.standards.openid import (
    Provider,
    SignedIn,
    description_url,
    read_id_token,
    read_provider,
    read_signed_in,
    token_request,
)

SECONDS = 8.0  # somebody waits in front of a browser


def find_provider(issuer: str, who: str) -> Provider:
    """Read where a provider is asked. Raises OutsideError."""
    try:
        return read_provider(
            call("GET", description_url(issuer), who, seconds=SECONDS, recognizes=True).json(who),
            issuer,
        )
    except ValueError as error:
        raise _wrong(who, str(error)) from error


def signed_in(
    provider: Provider,
    client: tuple[str, str],
    code: str,
    back: str,
    nonce: str,
    verifier: str,
    who: str,
) -> SignedIn:
    """Change a code for who signed in; ``client`` is our id and secret there. Raises OutsideError,
    also where the token cannot be believed (OpenID Connect Core 1.0, 3.1.3.7).
    """
    # RFC 6749, 2.3.1: both are form-encoded before they are joined.
    basic = base64.b64encode(":".join(quote(part, safe="") for part in client).encode()).decode()
    try:
        answer = call(
            "POST",
            provider.token_endpoint,
            who,
            headers={"Authorization": f"Basic {basic}", "Accept": "application/json"},
            fields=token_request(code, back, verifier),
            seconds=SECONDS,
            recognizes=True,
        )
        token = read_id_token(answer.json(who))
        keys = keys_for(token, provider.jwks_uri, who)
        claims = verify(
            token, keys, issuer=provider.issuer, audience=client[0], now=int(time.time())
        )
        return read_signed_in(claims, nonce)
    except (ValueError, LtiError) as error:
        raise _wrong(who, str(error)) from error


def _wrong(who: str, what: str) -> OutsideError:
    return OutsideError(
        Failure(
            FailureKind.SETTING,
            "college_sign_in",
            f"Signing in at {who} did not work: {what}.",
            "Ask an administrator to check the sign-in by the college on the Connections page.",
        )
    )
