"""Decimal numbers as the standards write them: ASCII digits and a point, and no longer than anybody
means.
"""

from __future__ import annotations

import re
from decimal import Decimal

_NUMBER = re.compile(r"[+-]?(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)(?:[eE][+-]?[0-9]{1,4})?")
MOST_DIGITS = 40
MOST_EXPONENT = 20
LARGEST = 1_000_000_000  # of a score or its points, that another system may tell


def read_number(text: str) -> Decimal | None:
    """Read a number exactly; a blank is None. Raises ValueError saying what is wrong with it.

    Python's own reader takes digits of all alphabets, underscores, NaN, and exponents whose digits
    would fill the memory.
    """
    stripped = text.strip()
    if not stripped:
        return None
    if not _NUMBER.fullmatch(stripped):
        raise ValueError("it is not a number written with digits and a decimal point")
    mantissa, _, exponent = stripped.lower().partition("e")
    if sum(character.isdigit() for character in mantissa) > MOST_DIGITS:
        raise ValueError(f"it has more than {MOST_DIGITS} digits")
    if exponent and abs(int(exponent)) > MOST_EXPONENT:
        raise ValueError(f"its exponent is beyond {MOST_EXPONENT}")
    return Decimal(stripped)


def read_json_number(value: object, *, strictly: bool = False) -> Decimal | None:
    """Read what JSON gave for a number; null is None.

    One that is written as a text is taken too, unless ``strictly``. Raises ValueError, also for one
    that is larger than any score.
    """
    if value is None:
        return None
    if isinstance(value, bool) or not isinstance(value, int | float | Decimal | str):
        raise ValueError("it is not a number")
    if strictly and isinstance(value, str):
        raise ValueError("it is a text")
    found = read_number(str(value))
    if found is None:
        raise ValueError("it is not a number")
    if abs(found) > LARGEST:
        raise ValueError(f"it is beyond {LARGEST:,}")
    return found
