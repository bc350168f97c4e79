"""The one signing key of a stand-in, made on first use."""

from __future__ import annotations

from typing import Any

from joserfc.jwk import RSAKey

from vennpair.standards.lti.keys import new_private_pem, private_key


def signing_key(model: Any) -> RSAKey:
    """Return the stand-in's key from its table ``SigningKey`` (fields ``kid``, ``pem``)."""
    row = model.objects.order_by("id").first()
    if row is None:
        kid, pem = new_private_pem()
        row = model.objects.create(kid=kid, pem=pem)
    return private_key(row.kid, row.pem)
