"""Exact numbers: reading, scaling, and when two scores are the same.

The rules are those of CONTRACTS: no thousands marks, no decimal comma, no rounding but the column's
own.
"""

from __future__ import annotations

from collections.abc import Iterable
from decimal import Context, Decimal
from fractions import Fraction

from vennpair.standards.numbers import MOST_DIGITS, MOST_EXPONENT, read_number

MOST_KNOWN = 50_000
BINARY_TAIL = 12  # from this many decimals on, a value is what floating point made of a shorter one
_EXACT = Context(prec=2 * (MOST_DIGITS + MOST_EXPONENT))


class KnownNumbers(dict[str, Decimal | None]):
    """Numbers by their text, each read once.

    The same text is the same object, so most scores are compared by a look at which it is.
    """

    def __missing__(self, text: str) -> Decimal | None:
        """Read a number that was not met yet. Raises ValueError."""
        value = read_number(text)
        if len(self) >= MOST_KNOWN:
            self.clear()
        self[text] = value
        return value


KNOWN = KnownNumbers()


def without_tail(value: Decimal) -> Decimal:
    """Take off a binary tail: 8.300000000000001 is 8.3, 33.333333333333336 is 33.33333333333."""
    if decimals(value) < BINARY_TAIL:
        return value
    return _EXACT.quantize(value, Decimal(1).scaleb(1 - BINARY_TAIL)).normalize(_EXACT)


def decimals(value: Decimal) -> int:
    """Return how many decimal places a value is written with."""
    exponent = value.as_tuple().exponent
    return max(0, -exponent) if isinstance(exponent, int) else 0


def written_decimals(scores: Iterable[Decimal]) -> int:
    """Return a column's decimals: the most that any of its cells writes, binary tails taken off."""
    found = list(scores)
    once = dict(
        zip(map(id, found), found, strict=True)
    )  # numbers read from the same text are one object
    return max((decimals(without_tail(score)) for score in once.values()), default=0)


def scale(score: Decimal, points: Decimal | None, target: Decimal | None) -> Fraction:
    """Return a score of ``points`` as a share of ``target``.

    Unscaled where either is missing or 0.
    """
    if not points or not target or points == target:
        return Fraction(score)
    return Fraction(score) * Fraction(target) / Fraction(points)


def same(scaled: Fraction, written: Decimal, column_decimals: int, *, rounds: bool = False) -> bool:
    """Say whether a column that writes so many decimals would show ``scaled`` as ``written``.

    Ties may go either way. Whole numbers must be equal exactly unless the column ``rounds``.
    """
    gap = abs(scaled - Fraction(without_tail(written)))
    if column_decimals == 0 and not rounds:
        return gap == 0
    return gap <= Fraction(1, 2 * 10**column_decimals)


def rounded(value: Fraction, places: int) -> Decimal:
    """Return a fraction as a decimal with at most so many places.

    Half a unit goes up, away from zero.
    """
    units = (abs(value) * 10**places * 2 + 1) // 2
    return (Decimal(units) if value >= 0 else -Decimal(units)).scaleb(-places, _EXACT)


def plain(value: Decimal) -> str:
    """Write a decimal without an exponent."""
    return format(value, "f")


def shortest(value: Decimal) -> str:
    """Write a decimal exactly, without trailing zeros and without an exponent."""
    return plain(value.normalize(_EXACT)) if value else "0"


def plain_fraction(value: Fraction) -> str:
    """Write a fraction as a decimal: exact where it ends within 40 places, else rounded to 10."""
    rest = value.denominator
    for prime in (2, 5):
        while rest % prime == 0:
            rest //= prime
    exact = _EXACT.divide(Decimal(value.numerator), Decimal(value.denominator))
    if rest == 1 and decimals(exact) <= MOST_DIGITS:
        return plain(exact.normalize(_EXACT)) if exact else "0"
    rounded = _EXACT.quantize(exact, Decimal("1e-10")).normalize(_EXACT)
    return plain(rounded) if rounded else "0"
