"""Fetching the other side's public keys, kept for a while, fetched once more for a key that
is new.
"""

from __future__ import annotations

import threading
import time

from joserfc.jwk import KeySet

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError, call_safely
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import unverified
from vennpair.standards.lti.keys import read_jwks

FRESH_SECONDS = 600
PAUSE_SECONDS = 10  # a forged key id must not make us fetch on every request

_kept: dict[str, tuple[KeySet, float]] = {}
_lock = threading.Lock()


def keys_for(token: str, jwks_url: str, who: str) -> KeySet:
    """Return the key set to verify a token with. Raises OutsideError, or LtiError ``bad_token``."""
    header, _ = unverified(token)
    with _lock:
        keys, fetched = _kept.get(jwks_url, (None, 0.0))
        known = keys is not None and any(key.kid == header.get("kid") for key in keys.keys)
        age = time.time() - fetched
        if keys is None or (not known and age > PAUSE_SECONDS) or age > FRESH_SECONDS:
            keys = _fetch(jwks_url, who)
            _kept[jwks_url] = (keys, time.time())
        return keys


def _fetch(jwks_url: str, who: str) -> KeySet:
    try:
        return read_jwks(call_safely("GET", jwks_url, who).json(who))
    except (ValueError, LtiError) as error:
        message = f"{who} publishes no usable keys at {jwks_url}: {error}."
        raise OutsideError(
            Failure(
                FailureKind.SETTING,
                "no_keys",
                message,
                "Ask an administrator to check the key set address of the connection.",
            )
        ) from error
