"""Two tables against a second reading of the contract: the whole result worked out naively with
fractions, cell by cell.
"""

from __future__ import annotations

import csv
import io
from collections import defaultdict
from fractions import Fraction
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from vennpair.core.reconcile.files import read_table
from vennpair.core.reconcile.table_report import table_report
from vennpair.core.reconcile.tables import compare_tables

HEADER = ("learner_id", "learner_email", "learner_name", "item", "score", "points", "at")
PEOPLE = ("T1", "T2", "T3", "T4", "T5")
ITEMS = ("Quiz", "Lab", "Essay")
SCORES = st.one_of(
    st.just(""),
    st.integers(-2, 30).map(str),
    st.decimals(0, 25, places=1).map(str),
    st.decimals(0, 25, places=2).map(str),
    st.sampled_from(["8.300000000000001", "6.666666666667", "1e1", "+4", ".5"]),
)
CELLS = st.dictionaries(
    st.tuples(st.sampled_from(PEOPLE), st.sampled_from(ITEMS)), SCORES, max_size=15
)
POINTS = st.fixed_dictionaries(
    {item: st.sampled_from(["10", "20", "12.5", "3", "", "0"]) for item in ITEMS}
)


def written(cells: dict[tuple[str, str], str], points: dict[str, str]) -> bytes:
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEADER)
    writer.writerows(
        [who, "", "", item, score, points[item], ""] for (who, item), score in cells.items()
    )
    return out.getvalue().encode()


def decimals(text: str) -> int:
    mantissa, _, exponent = text.lower().partition("e")
    written_ = max(0, len(mantissa.partition(".")[2]) - int(exponent or 0))
    if written_ < 12:
        return written_
    # Twelve decimals or more are a binary tail: what is left of it once it is rounded to eleven and
    # its zeros are gone.
    eleven = round(Fraction(text), 11)
    return next(places for places in range(12) if round(eleven, places) == eleven)


def value(text: str) -> Fraction:
    mantissa, _, exponent = text.lower().partition("e")
    exact = Fraction(mantissa) * Fraction(10) ** int(exponent or 0)
    return (
        exact if decimals(text) < 12 and len(mantissa.partition(".")[2]) < 12 else round(exact, 11)
    )


def expected(
    left: dict[tuple[str, str], str],
    right: dict[tuple[str, str], str],
    points: tuple[dict[str, str], dict[str, str]],
) -> dict[tuple[str, str], str]:
    """Return the kind of each cell of matched learners and items (CONTRACTS, Reconciling two
    files).
    """
    learners = {who for who, _ in left} & {who for who, _ in right}
    items = {item for _, item in left} & {item for _, item in right}
    places: dict[str, int] = defaultdict(int)
    for (_, item), text in right.items():
        if text:
            places[item] = max(places[item], decimals(text))
    found = {}
    for who in learners:
        for item in items:
            one, other = left.get((who, item), ""), right.get((who, item), "")
            if not one and not other:
                continue
            if not one or not other:
                found[who, item] = "unsent" if one else "gradebook_only"
                continue
            ours, theirs = (Fraction(side[item] or 0) for side in points)
            scaled = (
                Fraction(one.partition("e")[0])
                * (10 ** int(one.partition("e")[2] or 0))
                * (theirs / ours if ours and theirs else 1)
            )
            d = places[item]
            gap = abs(scaled - value(other))
            found[who, item] = (
                "agree" if gap == 0 or (d and gap <= Fraction(1, 2 * 10**d)) else "differ"
            )
    return found


@settings(max_examples=400, deadline=None)
@given(CELLS, CELLS, POINTS, POINTS)
def test_every_cell_is_what_fractions_say(
    left: dict[Any, str], right: dict[Any, str], ours: dict[str, str], theirs: dict[str, str]
) -> None:
    result = compare_tables(
        read_table(written(left, ours), "p.csv"),
        read_table(written(right, theirs), "g.csv"),
        grid=True,
    )
    document = table_report(result)
    wanted = expected(left, right, (ours, theirs))
    found = {(each["learner"]["id"], each["item"]): each["kind"] for each in document["cells"]}
    assert found == {key: kind for key, kind in wanted.items() if kind != "agree"}
    summary = document["summary"]
    assert (summary["cells"], summary["agree"]) == (
        len(wanted),
        sum(kind == "agree" for kind in wanted.values()),
    )
    assert (
        summary["agree"] + summary["differ"] + summary["unsent"] + summary["gradebook_only"]
        == summary["cells"]
    )
    assert (summary["learners"], summary["publisher_only"], summary["shell_only"]) == tuple(
        len(each)
        for each in (
            {who for who, _ in left} & {who for who, _ in right},
            {who for who, _ in left} - {who for who, _ in right},
            {who for who, _ in right} - {who for who, _ in left},
        )
    )
    assert result.grid is not None
    assert sorted(result.grid.values()) == sorted(wanted.values())
