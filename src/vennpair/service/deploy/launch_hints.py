"""What goes with a browser that we send on to a publisher, signed: which placement, and who."""

from __future__ import annotations

import uuid
from typing import Any

from django.core import signing

SALT, HINT_SECONDS = "vennpair.second-hop", 600


def sign_hint(hint: dict[str, Any]) -> str:
    """Return a hint that nobody else can make, and that is good for ten minutes."""
    return signing.dumps(hint | {"once": uuid.uuid4().hex}, salt=SALT)


def read_hint(text: str) -> dict[str, Any]:
    """Return a hint of ours. Raises BadSignature, SignatureExpired where it is too old."""
    return dict(signing.loads(text, salt=SALT, max_age=HINT_SECONDS))


def opened_by(hint: str) -> str:
    """Return the placement that a hint of ours leads to, empty where it is none of ours."""
    try:
        return str(read_hint(hint).get("placement") or "")
    except signing.BadSignature:
        return ""
