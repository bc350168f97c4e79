"""A score as a person types it into a stand-in's page."""

from __future__ import annotations

from decimal import Decimal, InvalidOperation


def typed_score(text: str) -> Decimal | None:
    """Return the number, or None for an empty field. Raises ValueError with words for the
    person.
    """
    if not text.strip():
        return None
    try:
        value = Decimal(text.strip())
    except InvalidOperation:
        raise ValueError(f"'{text[:40]}' is not a number; write it like 12 or 12.5.") from None
    if not value.is_finite() or value < 0 or value > 100_000:
        raise ValueError("A score lies between 0 and 100000.")
    return value
