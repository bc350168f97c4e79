"""The one signing key of a stand-in, made on first use."""

from __future__ import annotations

from typing import Any

from joserfc.jwk import RSAKey

from vennpair.standards.lti.keys import new_private_pem, private_key


def signing_key(model: Any) -> RSAKey:
    """Return the stand-in's key from its table ``SigningKey`` (fields ``kid``, ``pem``)."""
    rows = model.objects.order_by("id")
    if not rows.exists():
        kid, pem = new_private_pem()
        model.objects.create(kid=kid, pem=pem)
    row = rows.first()  # the oldest, also where two made one at once
    return private_key(row.kid, row.pem)
