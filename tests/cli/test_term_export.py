"""The term sheet of what is: it says what the shells have, no more, and can be read again."""

from __future__ import annotations

from typing import Any, cast

import pytest
from tests.client.schema_service import example
from tools.world.asked import schema

from vennpair.cli.term_export import Section, sheet_of_shells
from vennpair.client.schema import Item, Placement
from vennpair.core.deploy.term_sheet import read_term_sheet

ZONE = "America/Chicago"
PLAIN = {
    "item": {"kind": "graded", "points": "10", "due_at": "2027-02-02T05:59:00Z"}
    | {"category": "Homework", "audience": "everyone"},
    "placement": {"state": "placed", "column": True, "points": "10", "visible": True}
    | {"due_at": "2027-02-02T05:59:00Z", "category": "Homework", "shown_from": ""}
    | {"new_window": False, "shift_days": 0},
}


def made(kind: str, **fields: Any) -> Any:
    shape = schema()["components"]["schemas"][kind.capitalize()]
    return example(shape, full=True) | PLAIN[kind] | fields


def section(label: str, titles: list[str], **wishes: dict[str, Any]) -> Section:
    """A shell in which all items are placed, each in its unit's folder; a title is ``Unit 1 / Quiz``.
    ``wishes`` say by the item's title what is otherwise: of the item, of its link, or that it is not
    placed.
    """
    items, placed = [], {}
    for position, whole in enumerate(titles):
        unit, _, title = whole.rpartition(" / ")
        key, said = f"{label}-{position}", wishes.get(title, {})
        names = {"title": title, "shown_title": title, "unit": unit, "position": position}
        items.append(made("item", id=key, **names | said.get("item", {})))
        link = {"item": key, "title": title, "unit": unit, "folder": unit} | said.get("link", {})
        if not said.get("absent"):
            placed[key] = made("placement", id=f"link-{key}", **link)
    found = Section(label, label, ZONE, cast("list[Item]", items))
    found.placed = cast("dict[str, Placement]", placed)
    return found


def written(*sections: Section) -> tuple[dict[str, Any], list[str]]:
    """Return the sheet, which must be one, and what it could not say."""
    sheet, remarks = sheet_of_shells(sections)
    read_term_sheet(sheet)
    return sheet, remarks


TWO = ["Unit 1 / Quiz", "Unit 2 / Essay"]


def test_what_is_as_usual_needs_few_words() -> None:
    sheet, remarks = written(section("HYD 210-01", TWO))
    assert sheet == {
        "scores": "later",
        "into": "unit",
        "section": [{"shell": "HYD 210-01", "course": "HYD 210-01", "shift_days": 0}],
    }
    assert remarks == []


@pytest.mark.parametrize(
    ("item", "link", "wish"),
    [
        ({}, {"title": "Quiz, first try"}, {"title": "Quiz, first try"}),
        ({}, {"column": False}, {"becomes": "link"}),
        ({"due_at": None}, {"due_at": None}, {"becomes": "column"}),
        (
            {"points": None},
            {"points": "7.5"},
            {"becomes": "column", "points": "7.5"},
        ),
        (
            {"due_at": None},
            {"due_at": "2027-03-02T05:59:00Z"},
            {"becomes": "column", "due_at": "2027-03-01T23:59:00-06:00"},
        ),
        ({}, {"category": "Quizzes"}, {"category": "Quizzes"}),
        ({}, {"visible": False}, {"visible": False}),
        ({"audience": "instructor"}, {"visible": True}, {"visible": True}),
        ({"audience": "instructor"}, {"visible": False}, {}),
        ({}, {"new_window": True}, {"new_window": True}),
        ({}, {"folder": "Week 9"}, {"folder": "Week 9"}),
    ],
)
def test_one_item_that_is_otherwise_is_told_so(
    item: dict[str, Any], link: dict[str, Any], wish: dict[str, Any]
) -> None:
    titles = [*TWO, "Unit 1 / Lab", "Unit 1 / Map"]
    sheet, _ = written(section("HYD 210-01", titles, Quiz={"item": item, "link": link}))
    assert sheet.get("item", {}) == ({"Quiz": wish} if wish else {})
    assert sheet["into"] == "unit"


def test_a_moment_is_said_as_of_the_course_before_its_dates_were_moved() -> None:
    link = {"shown_from": "2027-03-15T13:00:00Z", "shift_days": 7}
    sheet, _ = written(section("HYD 210-01", TWO, Quiz={"link": link}, Essay={"link": link}))
    # Across the change of clocks (March 14) it is still eight o'clock there.
    assert {each["shown_from"] for each in sheet["item"].values()} == {"2027-03-08T08:00:00-06:00"}
    assert sheet["section"][0]["shift_days"] == 7


def test_links_without_columns_are_said_once_for_all() -> None:
    link = {"link": {"column": False, "title": "Short essay"}}
    sheet, _ = written(section("HYD 210-01", TWO, Quiz={"link": {"column": False}}, Essay=link))
    assert sheet["graded"] == "link"
    assert sheet["item"] == {"Essay": {"title": "Short essay"}}


def test_where_it_is_is_one_folder_or_one_for_each_unit() -> None:
    moved = {"Quiz": {"link": {"folder": "Week 1"}}}
    sheet, _ = written(section("HYD 210-01", TWO, **moved))
    assert (sheet["into"], sheet["folders"]) == ("unit", {"Unit 1": "Week 1"})
    moved["Essay"] = {"link": {"folder": ""}}
    sheet, _ = written(section("HYD 210-01", [*TWO, "Unit 1 / Lab"], **moved))
    assert sheet["into"] == "folder"
    assert "folders" not in sheet


def test_what_a_second_shell_has_of_its_own_is_said_there() -> None:
    lead = section("HYD 210-01", TWO, Quiz={"link": {"visible": False}})
    other = section(
        "HYD 210-02",
        [*TWO, "Unit 2 / Lab"],
        Quiz={"link": {"shift_days": 14}},
        Essay={"absent": True},
        Lab={"link": {"shift_days": 14}},
    )
    sheet, _ = written(lead, other)
    first, second = sheet["section"]
    assert "without" not in first
    assert second["without"] == ["Essay"]
    assert second["shift_days"] == 14
    assert second["item"] == {"Quiz": {"visible": True}}, "as usual there, and not as in the first"
    assert "Lab" not in str(sheet), "the first shell's course does not have it"


def test_items_that_only_some_shells_have_are_named_for_all() -> None:
    lead = section(
        "HYD 210-01", [*TWO, "Unit 2 / Lab"], Essay={"absent": True}, Lab={"absent": True}
    )
    sheet, _ = written(lead, section("HYD 210-02", TWO))
    assert sheet["items"] == ["Quiz", "Essay"]
    assert [each.get("without") for each in sheet["section"]] == [["Essay"], None]


def test_items_of_one_title_are_told_apart_or_said_not_to_be() -> None:
    sheet, remarks = written(
        section("HYD 210-01", ["Unit 1 / Quiz", "Unit 2 / QUIZ"], Quiz={"link": {"visible": False}})
    )
    assert sheet["item"] == {"Unit 1 / Quiz": {"visible": False}}
    assert remarks == []
    _, remarks = written(section("HYD 210-01", ["Unit 1 / Quiz", "Unit 1 / Quiz", "Unit 1 / Lab"]))
    (words,) = remarks
    assert words.startswith("'Unit 1 / Quiz' is the name of 2 items")


def test_two_shells_of_one_name_are_not_taken_for_each_other() -> None:
    lead = section("HYD 210", TWO)
    other = section("HYD 210", list(reversed(TWO)), Essay={"absent": True})
    other.items = {
        f"second-{key}": each | {"id": f"second-{key}"} for key, each in other.items.items()
    }  # type: ignore[misc]
    other.placed = {f"second-{key}": each for key, each in other.placed.items()}
    sheet, _ = written(lead, other)
    assert [each.get("without") for each in sheet["section"]] == [None, ["Essay"]]


def test_what_a_sheet_cannot_say_is_said_beside_it() -> None:
    lead, other = section("HYD 210-01", TWO), section("HYD 210-02", TWO)
    lead.scores, lead.access, lead.totals = "due", "code", ["Average", "Best of two"]
    sheet, remarks = written(lead, other)
    assert (sheet["scores"], sheet["access"], sheet["total"]) == ("due", "code", "Average")
    assert [each.split(":")[0] for each in remarks] == ["HYD 210-01", "HYD 210-02"]
