"""Tables from files: the contract's examples, and every refusal with its place."""

from __future__ import annotations

import io
import json
import zipfile
from decimal import Decimal
from fractions import Fraction
from pathlib import Path
from typing import Any

import pytest

from vennpair.core.reconcile.files import TableError, read_layout, read_table
from vennpair.core.reconcile.table_report import table_report
from vennpair.core.reconcile.tables import compare_tables

EXAMPLES = Path(__file__).parents[1] / "examples" / "reconcile"
HEADER = "learner_id,learner_email,learner_name,item,score,points,at\n"
ROW = "L1,ada@t.example,Ada Brook,Quiz,8,10,2027-03-02T09:00:00Z\n"


@pytest.mark.parametrize("name", ["equal", "rounding", "oneroster_publisher"])
def test_the_contract_s_examples(name: str) -> None:
    wanted = json.loads((EXAMPLES / name / "expected.json").read_text())
    sides = [
        read_table((EXAMPLES / name / wanted[side]).read_bytes(), wanted[side])
        for side in ("publisher", "gradebook")
    ]
    report = table_report(compare_tables(*sides))
    assert report["summary"] == wanted["expect"]["summary"]
    for cell, expected in zip(report["cells"], wanted["expect"]["cells"], strict=True):
        assert (cell["item"], cell["kind"], cell["publisher"], cell["gradebook"]) == (
            expected["item"],
            expected["kind"],
            expected["publisher"],
            expected["gradebook"],
        )
        if "scaled" in expected:
            assert abs(Fraction(cell["scaled"]) - Fraction(expected["scaled"]["value"])) < Fraction(
                1, 10**9
            )
    for title, facts in wanted["expect"]["columns"].items():
        row = next(each for each in report["columns"] if each["item"] == title)
        assert set(facts["must"]) <= set(row["findings"])
        assert not set(facts["must_not"]) & set(row["findings"])


@pytest.mark.parametrize(
    ("data", "code", "line"),
    [
        (b"", "empty_file", None),
        (b"\xef\xbb\xbf \r\n", "empty_file", None),
        ((HEADER + ROW).encode("utf-16-le"), "encoding", 1),
        ((HEADER + "L1,,Ad\xe9,Quiz,8,10,\n").encode("latin-1"), "encoding", 2),
        (HEADER.replace(",", ";").encode(), "separator", 1),
        (b"name,Quiz 1,Quiz 2\nAda,8,9\n", "missing_header", 1),
        ((HEADER + "L1,,Ada,Quiz\n").encode(), "short_row", 2),
        ((HEADER + 'L1,,"Ada,Quiz,8,10,\n').encode(), "short_row", 2),
        ((HEADER + ROW + 'L2,,"Two\nlines",Quiz,NaN,10,\n').encode(), "bad_score", 3),
        ((HEADER + "L1,,Ada,Quiz,8,-10,\n").encode(), "bad_points", 2),
        ((HEADER + ROW + "L2,,Ben,Quiz,8,20,\n").encode(), "points_vary", 3),
        ((HEADER + ROW + "L1,,Ada,Quiz,9,10,\n").encode(), "repeated_row", 3),
        (
            (HEADER + ROW + "L1,,Ada,Quiz,9,10,2027-03-02T10:00:00+01:00\n").encode(),
            "repeated_row",
            3,
        ),
        (b"PK\x03\x04 not a zip", "encoding", None),
    ],
)
def test_each_refusal_names_file_and_line(data: bytes, code: str, line: int | None) -> None:
    with pytest.raises(TableError) as caught:
        read_table(data, "scores.csv")
    assert (caught.value.code, caught.value.line) == (code, line)
    assert "scores.csv" in caught.value.file
    assert caught.value.remedy


def test_the_latest_of_repeated_rows_counts_even_where_it_is_blank() -> None:
    text = HEADER + ROW + "L1,,Ada,Quiz,,10,2027-03-02T09:00:01Z\n"
    table = read_table(text.encode("utf-16"), "scores.csv")
    assert table.items[0].scores == {}
    assert len(table.learners) == 1


def test_a_header_without_rows_is_an_empty_class() -> None:
    assert read_table(HEADER.encode(), "scores.csv").learners == []


def _set(**tables: str) -> bytes:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as archive:
        for name, text in tables.items():
            archive.writestr(f"{name}.csv", text)
    return target.getvalue()


GOOD: dict[str, str] = {
    "manifest": "propertyName,value\nmanifest.version,1.0\nfile.users,bulk\n",
    "users": (
        "sourcedId,status,givenName,familyName,email\nu1,,Ada,Brook,a@t.example\nu2,tobedeleted,Ben,Croft,b@t.example\n"
    ),
    "lineItems": (
        "sourcedId,status,title,classSourcedId,resultValueMax\nl1,,Quiz,c1,10\nl2,tobedeleted,Old,c1,10\n"
    ),
    "results": (
        "sourcedId,status,lineItemSourcedId,studentSourcedId,scoreStatus,score,scoreDate\nr1,,l1,u1,exempt,5,\nr2,,l2,u1,fully"
        " graded,5,\n"
    ),
}


def test_what_is_deleted_or_exempt_in_a_oneroster_set_is_no_score() -> None:
    table = read_table(_set(**GOOD), "set.zip")
    assert [item.title for item in table.items] == ["Quiz"]
    assert table.items[0].scores == {}
    assert [learner.id for learner in table.learners] == ["u1"]


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"manifest": "propertyName,value\nfile.results,delta\n"}, "delta_set"),
        ({"users": None}, "missing_table"),
        ({"lineItems": "sourcedId,title\nl1,Quiz\n"}, "missing_header"),
        ({"results": GOOD["results"] + "r3,,l1\n"}, "short_row"),
        ({"lineItems": GOOD["lineItems"] + "l3,,Other,c2,10\n"}, "class_needed"),
        ({"../evil": "x"}, "unsafe_path"),
        ({"results": GOOD["results"].replace("exempt,5", "fully graded,five")}, "bad_score"),
    ],
)
def test_a_oneroster_set_is_refused_with_a_code(change: dict[str, Any], code: str) -> None:
    tables = {name: text for name, text in (GOOD | change).items() if text is not None}
    with pytest.raises(TableError) as caught:
        read_table(_set(**tables), "set.zip")
    assert caught.value.code == code


def test_the_class_is_chosen_by_its_id() -> None:
    tables = GOOD | {"lineItems": GOOD["lineItems"] + "l3,,Other,c2,10\n"}
    assert [item.title for item in read_table(_set(**tables), "set.zip", "c2").items] == ["Other"]


LAYOUT = r"""
[table]
separator = ";"
decimal = ","
encoding = "windows-1252"
points = 2
blank = ["-"]
[learner]
id = "No."
name = ["Given", "Family"]
[items]
except = ["Total"]
points = '\s*\((\d+) points\)'
rounds = ["Quiz 2"]
"""
WIDE = (
    "No.;Given;Family;Quiz 1 (10 points);Quiz"
    " 2;Total\n;;;;20;\n0042;Odile;Föhrde;7,5;-;7,5\nT2;Ada;Brook;;19;19\n"
)


def test_a_wide_table_is_read_as_its_layout_says() -> None:
    table = read_table(
        WIDE.encode("windows-1252"), "export.csv", layout=read_layout(LAYOUT, "tarnfield.toml")
    )
    assert [(learner.id, learner.name) for learner in table.learners] == [
        ("0042", "Odile Föhrde"),
        ("T2", "Ada Brook"),
    ]
    assert [(item.title, item.points, item.rounds) for item in table.items] == [
        ("Quiz 1", 10, False),
        ("Quiz 2", 20, True),
    ]
    assert [item.scores for item in table.items] == [{0: Decimal("7.5")}, {1: Decimal(19)}]


def test_a_column_that_rounds_agrees_with_what_it_rounded() -> None:
    gradebook = read_table(
        WIDE.encode("windows-1252"), "export.csv", layout=read_layout(LAYOUT, "tarnfield.toml")
    )
    publisher = read_table(
        (HEADER + "T2,,Ada Brook,Quiz 2,18.6,20,\n").encode(),
        "p.csv",
        layout=read_layout(LAYOUT, "tarnfield.toml"),
    )
    assert compare_tables(publisher, gradebook).counts == {"agree": 1}


@pytest.mark.parametrize(
    ("old", "new", "code", "line"),
    [
        ("7,5;-", "1.007,5;-", "bad_score", 3),
        ("7,5;-", "7,5;absent", "bad_score", 3),
        (";19;19", ";19", "short_row", 4),
        ("No.;", "Number;", "missing_header", 1),
        (";20;\n", ";twenty;\n", "bad_points", 2),
        ("T2;", "0042;", "repeated_row", 4),
    ],
)
def test_what_a_wide_table_gets_wrong_is_named_with_its_line(
    old: str, new: str, code: str, line: int
) -> None:
    with pytest.raises(TableError) as caught:
        read_table(
            WIDE.replace(old, new, 1).encode("windows-1252"),
            "export.csv",
            layout=read_layout(LAYOUT, "tarnfield.toml"),
        )
    assert (caught.value.code, caught.value.line) == (code, line)


@pytest.mark.parametrize(
    "text",
    [
        "no toml",
        "[learner]\nname = 'N'",
        "[learner]\nid = 'x'\nshoe = 'y'",
        "[other]\n",
        "[learner]\nid='x'\n[table]\nseparator='x'",
        "[learner]\nid='x'\n[table]\nheader=0",
        "[learner]\nid='x'\n[items]\npoints='('",
        "[learner]\nid='x'\n[items]\ncolumns=5",
    ],
)
def test_a_layout_that_cannot_be_meant_is_refused(text: str) -> None:
    with pytest.raises(TableError) as caught:
        read_layout(text, "layout.toml")
    assert caught.value.code == "bad_layout"
