"""Exact numbers: what is read, and when two scores are the same."""

from __future__ import annotations

from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vennpair.core.reconcile.numbers import (
    decimals,
    plain_fraction,
    same,
    scale,
    without_tail,
    written_decimals,
)
from vennpair.standards.numbers import read_json_number, read_number


@pytest.mark.parametrize(
    ("text", "value"),
    [("8", "8"), (" 8.50 ", "8.50"), ("+.5", "0.5"), ("-3.", "-3"), ("1e1", "10"), ("0", "0")],
)
def test_numbers_that_are_read(text: str, value: str) -> None:
    assert read_number(text) == Decimal(value)


@pytest.mark.parametrize(
    "text",
    [
        "12,5",
        "1 000",
        "1.000,5",
        "NaN",
        "inf",
        "1e400",
        "1e21",
        "absent",
        "٣",
        "0x10",
        "1_0",
        "--1",
        "1" * 41,
        "5%",
    ],
)
def test_what_is_no_number_is_refused_not_guessed(text: str) -> None:
    with pytest.raises(ValueError, match=r"."):
        read_number(text)


def test_a_blank_is_no_score_and_never_zero() -> None:
    assert read_number("  ") is None
    assert read_number("0") == 0


def test_a_binary_tail_is_taken_off() -> None:
    assert without_tail(Decimal("8.300000000000001")) == Decimal("8.3")
    assert without_tail(Decimal("33.333333333333336")) == Decimal("33.33333333333")
    assert decimals(without_tail(Decimal("8.300000000000001"))) == 1
    assert written_decimals([Decimal("5"), Decimal("5.50"), Decimal("7.100000000000001")]) == 2


def test_a_column_of_whole_numbers_does_not_round_unless_it_says_so() -> None:
    assert not same(Fraction(17, 2), Decimal(8), 0)
    assert same(Fraction(17, 2), Decimal(8), 0, rounds=True)
    assert same(Fraction(17, 2), Decimal(9), 0, rounds=True)


def test_ties_may_go_either_way_and_nothing_else() -> None:
    assert same(Fraction(845, 100), Decimal("8.4"), 1)
    assert same(Fraction(845, 100), Decimal("8.5"), 1)
    assert not same(Fraction(8451, 1000), Decimal("8.4"), 1)


def test_scores_without_points_are_compared_as_they_stand() -> None:
    assert scale(Decimal(7), None, Decimal(10)) == scale(Decimal(7), Decimal(10), Decimal(0)) == 7
    assert scale(Decimal(1), Decimal(3), Decimal(100)) == Fraction(100, 3)


@given(st.decimals(-1000, 1000, places=4), st.integers(1, 400), st.integers(1, 400))
def test_a_scaled_score_rounded_by_the_column_always_agrees(
    score: Decimal, points: int, target: int
) -> None:
    scaled = scale(score, Decimal(points), Decimal(target))
    shown = Decimal(round(scaled * 100)) / 100
    assert same(scaled, shown, 2)


@given(st.fractions(-1000, 1000, max_denominator=5000))
def test_fractions_are_written_exactly_or_to_ten_places(value: Fraction) -> None:
    assert abs(Fraction(plain_fraction(value)) - value) <= Fraction(1, 2 * 10**10)


@pytest.mark.parametrize(
    "value",
    [
        "1e999999999",
        "1_0",
        "\u0663",
        "NaN",
        "Infinity",
        "0x1",
        "1,5",
        "",
        True,
        [1],
        {},
        float("inf"),
        Decimal("1e-30"),
        "9" * 41,
    ],
)
def test_a_number_of_json_is_one_that_people_mean(value: object) -> None:
    with pytest.raises(ValueError, match="it"):
        read_json_number(value)


def test_numbers_of_json_are_read_exactly() -> None:
    assert read_json_number(None) is None
    assert read_json_number(10**9) == 10**9
    with pytest.raises(ValueError, match="beyond"):
        read_json_number(10**9 + 1)
    assert [read_json_number(each) for each in (0.1, "0.10", 7, Decimal("1E+2"), 1e-7, " 8 ")] == [
        Decimal("0.1"),
        Decimal("0.1"),
        Decimal(7),
        Decimal(100),
        Decimal("0.0000001"),
        Decimal(8),
    ]
