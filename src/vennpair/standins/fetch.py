"""How a stand-in asks the other side: plainly, with a time limit."""

from __future__ import annotations

from functools import cache

import httpx
from joserfc.jwk import KeySet

from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.keys import read_jwks

# Loading the authorities that are trusted takes longer than a call: once for each process.
trusted = cache(httpx.create_ssl_context)


def fetch_keys(url: str) -> KeySet:
    """Fetch a key set. Raises LtiError ``no_keys``."""
    try:
        return read_jwks(httpx.get(url, timeout=5, verify=trusted()).raise_for_status().json())
    except (httpx.HTTPError, ValueError) as error:
        raise LtiError("no_keys", f"The key set at {url} cannot be read: {error}") from error
