"""Files that go out: a gradebook written back with nothing else touched, a first layout, reports
that no spreadsheet runs.
"""

from __future__ import annotations

import csv
import io
import json

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import load_workbook

from vennpair.core.reconcile.files import TableError, read_layout, read_table
from vennpair.core.reconcile.files.spans import decoded, replaced, spans
from vennpair.core.reconcile.files.suggest import suggest_layout
from vennpair.core.reconcile.files.write_back import write_back
from vennpair.core.reconcile.report import report_of_tables
from vennpair.core.reconcile.report.disarming import disarmed
from vennpair.core.reconcile.report.page import as_page
from vennpair.core.reconcile.report.sheets import as_csv, as_xlsx
from vennpair.core.reconcile.table_report import table_report
from vennpair.core.reconcile.tables import compare_tables

HEADER = "learner_id,learner_email,learner_name,item,score,points,at\n"
WIDE = (
    '\ufeff"Made by hand";;;;;\r\nStudent number;E-mail;Family name;Given name;Quiz 1;"Quiz;'
    ' two";Total\r\n;;;;10;20;30\r\n001;a@t.example;Kršinić;Vesna;8,5;-;8,5\r\n002;b@t.example;"Berg;'
    ' Jr";Ola;7;19;26\r\n003;c@t.example;Moor;Edda;;;\r\n'
)


@given(
    st.lists(
        st.lists(
            st.text(st.characters(exclude_characters="\0", exclude_categories=["Cs"]), max_size=6),
            min_size=2,
            max_size=4,
        ),
        min_size=1,
        max_size=6,
    ),
    st.sampled_from(["\r\n", "\n"]),
)
def test_every_field_is_found_where_the_csv_reader_sees_it(rows: list[list[str]], end: str) -> None:
    out = io.StringIO()
    csv.writer(out, lineterminator=end, quoting=csv.QUOTE_ALL).writerows(rows)
    text = out.getvalue()
    reader = csv.reader(io.StringIO(text, newline=""))
    line, where = 1, spans(text, ",")
    for fields in reader:
        assert [text[slice(*where[line, place])] for place in range(len(fields))] == [
            '"' + each.replace('"', '""') + '"' for each in fields
        ]
        line = reader.line_num + 1
    assert replaced(text, ",", {}) == text


def test_only_the_cells_that_are_to_change_change_and_the_layout_stays() -> None:
    data = WIDE.encode()
    found = suggest_layout(data, "g.csv")
    layout = read_layout(found.layout, "g.toml")
    assert (
        layout.separator,
        layout.decimal,
        layout.header,
        layout.points,
        layout.id,
        layout.email,
        layout.leave_out,
    ) == (";", ",", 2, 3, "Student number", "E-mail", ("Total",))
    publisher = read_table(
        (
            HEADER
            + "001,,V,Quiz 1,8.5,10,\n001,,V,Quiz; two,18,20,\n002,,O,Quiz 1,9,10,\n003,,E,Quiz"
            " 1,3.25,10,\n"
        ).encode(),
        "p.csv",
    )
    gradebook = read_table(data, "g.csv", layout=layout, places=True)
    result = compare_tables(publisher, gradebook)
    written, changed = write_back(data, "g.csv", gradebook, result, {"unsent"}, layout)
    assert written.decode() == WIDE.replace("8,5;-;8,5", "8,5;18;8,5").replace(
        "Edda;;;", "Edda;3,3;;"
    )
    assert len(changed) == 2
    again = compare_tables(publisher, read_table(written, "g.csv", layout=layout))
    assert again.counts["unsent"] == 0
    assert again.counts["differ"] == result.counts["differ"] == 1


def test_a_tidy_gradebook_gets_rows_that_it_did_not_have_and_may_be_emptied() -> None:
    publisher = read_table((HEADER + "1,,A,Quiz,5,10,\n2,,B,Quiz,6,10,\n").encode(), "p.csv")
    data = (HEADER + '1,,A,Quiz,,20,\n3,,"C, D",Quiz,7,20,\n').encode("utf-16")
    gradebook = read_table(data, "g.csv", places=True)
    gradebook_two = read_table(
        (HEADER + "1,,A,Quiz,,20,\n2,,B,Other,1,20,\n").encode(), "g.csv", places=True
    )
    written, _ = write_back(
        data, "g.csv", gradebook, compare_tables(publisher, gradebook), {"unsent"}
    )
    assert decoded(written).text == HEADER + '1,,A,Quiz,10,20,\n3,,"C, D",Quiz,7,20,\n'
    written, changed = write_back(
        HEADER.encode() + b"1,,A,Quiz,,20,\n2,,B,Other,1,20,\n",
        "g.csv",
        gradebook_two,
        compare_tables(publisher, gradebook_two),
        {"unsent"},
    )
    assert written.decode().endswith("2,,B,Other,1,20,\n2,,B,Quiz,12,20,\n")
    assert [(each.before, each.after) for each in changed] == [("", "10"), ("", "12")]


def test_a_mark_does_not_outweigh_the_encoding_that_the_layout_names() -> None:
    data = "\ufeffNumber;M\xfcller;Quiz\n1;a;\n".encode("windows-1252", "ignore").replace(
        b"Number", b"\xef\xbb\xbfNumber"
    )
    found = decoded(data, "windows-1252")
    assert found.bytes() == data
    assert "M\xfcller" in found.text


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", "empty_file"),
        (b"\xef\xbb\xbf", "empty_file"),
        (b",,\n,,\n", "empty_file"),
        (b"PK\3\4", "not_a_table"),
        (b"1,2,3\n4,5,6\n", "missing_header"),
        (b"Name,Quiz 1\nAda,5\nBen,6\n", "missing_header"),
    ],
)
def test_what_is_no_table_of_learners_gets_no_layout(data: bytes, code: str) -> None:
    with pytest.raises(TableError) as refused:
        suggest_layout(data, "x.csv")
    assert refused.value.code == code


def test_no_name_or_title_becomes_a_formula_or_a_script() -> None:
    evil = '=HYPERLINK("http://x")'
    rows = '7,,"=HYPERLINK(""http://x"")","<script>x</script>",{},10,\n8,,@b,"<script>x</script>",1,10,\n'
    publisher, gradebook = (
        read_table((HEADER + rows.format(score)).encode(), "t.csv") for score in ("5", "6")
    )
    result = compare_tables(publisher, gradebook, grid=True)
    report = report_of_tables(result, table_report(result), "p.csv", "=g.csv")
    sheet = load_workbook(io.BytesIO(as_xlsx(report)))
    values = [
        cell
        for page in sheet
        for row in page.iter_rows()
        for cell in row
        if isinstance(cell.value, str)
    ]
    assert all(
        cell.data_type == "s" and not cell.value.startswith(("=", "@", "+")) for cell in values
    )
    assert any(evil in cell.value for cell in values)
    assert sheet["Findings"]["G2"].value == 5
    assert all(
        not field.startswith(("=", "@"))
        for line in csv.reader(io.StringIO(as_csv(report).decode("utf-8-sig")))
        for field in line
    )
    page = as_page(report).decode()
    assert "<script>" not in page
    assert "1 of 2 scores do not agree." in page
    assert json.loads(json.dumps(report.as_json()))["findings"][0]["publisher"] == "5"


@pytest.mark.parametrize("text", ["=1", "\uff1d1+1", "\uff20a", "\uff0b1", "\uff0da", "\t=1", "-a"])
def test_what_looks_like_a_formula_stays_a_text(text: str) -> None:
    assert disarmed(text) == f"'{text}"
    assert disarmed("-7.5") == "-7.5"
