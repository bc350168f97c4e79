"""How a stand-in reads the other side's keys: plainly, with a time limit."""

from __future__ import annotations

import httpx
from joserfc.jwk import KeySet

from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.keys import read_jwks


def fetch_keys(url: str) -> KeySet:
    """Fetch a key set. Raises LtiError ``no_keys``."""
    try:
        return read_jwks(httpx.get(url, timeout=5).raise_for_status().json())
    except (httpx.HTTPError, ValueError) as error:
        raise LtiError("no_keys", f"The key set at {url} cannot be read: {error}") from error
