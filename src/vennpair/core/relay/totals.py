"""A total column: chosen items as one number, with its arithmetic shown.

Everything is computed in exact fractions and rounded once, at the end.

- ``equal``: the mean of the items' shares of their points; every item weighs the same.
- ``points``: all points earned out of all points that count; an item weighs as much as its points.
- ``categories``: within each category as by points, then by the weights of the categories. A
  category in which nothing
  counts yet is left out, and the others' weights stand for the whole.

Missing work is ignored until it is due and zero after (``until_due``), always ignored, or always
zero. An item without a due date is never missing by ``until_due``. What has no points of its own
adds what it earned and asks for nothing where points weigh (extra credit); by ``equal`` it does not
count.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal
from enum import StrEnum
from fractions import Fraction

from vennpair.core.deploy.dates import read_moment
from vennpair.core.reconcile.numbers import plain, plain_fraction, rounded

PLACES = 2


class Weighting(StrEnum):
    """How items weigh in a total."""

    EQUAL = "equal"
    POINTS = "points"
    CATEGORIES = "categories"


class Missing(StrEnum):
    """What work that was not handed in counts."""

    UNTIL_DUE = "until_due"
    IGNORED = "ignored"
    ZERO = "zero"


@dataclass(frozen=True, slots=True)
class Counting:
    """An item that counts: its points, due date (ISO 8601 with zone, or empty) and category."""

    item: str
    title: str
    points: Decimal
    due_at: str = ""
    category: str = ""


@dataclass(frozen=True, slots=True)
class Method:
    """How a total is computed, in points of ``worth``.

    ``weights``: category to its weight; one that is not named weighs nothing.
    """

    worth: Decimal
    weighting: Weighting = Weighting.EQUAL
    weights: Mapping[str, Decimal] = field(default_factory=dict)
    missing: Missing = Missing.UNTIL_DUE
    places: int = PLACES


@dataclass(frozen=True, slots=True)
class Share:
    """What one item adds to a total: the score, None where it is missing and counts as zero."""

    title: str
    score: Decimal | None
    points: Decimal
    category: str = ""


@dataclass(frozen=True, slots=True)
class Total:
    """A learner's total, None where nothing counts yet, with each share and the steps of the
    arithmetic in sentences.
    """

    score: Decimal | None = None
    shares: tuple[Share, ...] = ()
    steps: tuple[str, ...] = ()


def total(
    items: Sequence[Counting],
    scores: Mapping[str, Decimal],
    method: Method,
    now: datetime,
    excused: frozenset[str] = frozenset(),
) -> Total:
    """Return a learner's total; ``scores`` by item, in the item's points.

    ``excused`` items do not count.
    """
    shares = [
        share
        for each in items
        if each.item not in excused
        and (share := _share(each, scores, method.missing, now)) is not None
    ]
    if method.weighting is Weighting.EQUAL:
        part, steps = _equally([share for share in shares if share.points])
    elif method.weighting is Weighting.POINTS:
        part, steps = _by_points(shares)
    else:
        part, steps = _by_categories(shares, method.weights)
    if part is None:
        return Total()
    value = part * Fraction(method.worth)
    score = rounded(value, method.places)
    last = f"{_percent(part)} of {_plain(method.worth)} points is {plain_fraction(value)}" + (
        "" if Fraction(score) == value else f", rounded to {plain(score)}"
    )
    return Total(score, tuple(shares), (*steps, last))


def _share(
    each: Counting, scores: Mapping[str, Decimal], missing: Missing, now: datetime
) -> Share | None:
    if each.item in scores:
        return Share(each.title, scores[each.item], each.points, each.category)
    due = read_moment(each.due_at)
    if missing is Missing.ZERO or (missing is Missing.UNTIL_DUE and due is not None and due <= now):
        return Share(each.title, None, each.points, each.category)
    return None


def _equally(shares: Sequence[Share]) -> tuple[Fraction | None, list[str]]:
    if not shares:
        return None, []
    part = sum(
        (Fraction(each.score or 0) / Fraction(each.points) for each in shares), Fraction(0)
    ) / len(shares)
    return part, [
        f"the mean of {len(shares)} share{'' if len(shares) == 1 else 's'} is {_percent(part)}"
    ]


def _by_points(shares: Sequence[Share]) -> tuple[Fraction | None, list[str]]:
    earned = sum((Fraction(each.score or 0) for each in shares), Fraction(0))
    possible = sum((Fraction(each.points) for each in shares), Fraction(0))
    if not possible:
        return None, []
    return earned / possible, [
        f"{plain_fraction(earned)} of {plain_fraction(possible)} points is"
        f" {_percent(earned / possible)}"
    ]


def _by_categories(
    shares: Sequence[Share], weights: Mapping[str, Decimal]
) -> tuple[Fraction | None, list[str]]:
    steps, weighed, whole = [], Fraction(0), Fraction(0)
    for category, weight in weights.items():
        part, _ = _by_points([each for each in shares if each.category == category])
        if part is None or not weight:
            continue
        weighed, whole = weighed + part * Fraction(weight), whole + Fraction(weight)
        steps.append(f"{category or 'no category'}: {_percent(part)}, weight {_plain(weight)}")
    if not whole:
        return None, []
    return weighed / whole, [
        *steps,
        f"together {_percent(weighed / whole)} of a weight of {plain_fraction(whole)}",
    ]


def _percent(part: Fraction) -> str:
    return f"{plain_fraction(part * 100)} %"


def _plain(value: Decimal) -> str:
    return plain_fraction(Fraction(value))
