"""The Shell Outline protocol: what another platform may send, and what it may not."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vennpair.standards.outline import (
    Node,
    ShellTool,
    read_node,
    read_offers,
    read_outline,
    read_tool,
    write_node,
    write_tool,
)
from vennpair.standards.outline.gradebook import (
    Category,
    Gradebook,
    read_category,
    read_gradebook,
    write_gradebook,
)

TEXT = st.text(max_size=20)
NAMED = st.text(min_size=1, max_size=20)
NODES = st.builds(
    Node,
    id=NAMED,
    title=TEXT,
    kind=st.sampled_from(["folder", "heading", "lti_link", "web_link", "page"]),
    folder=TEXT,
    position=st.integers(0, 500),
    depth=st.integers(0, 9),
    visible=st.booleans(),
    custom=st.dictionaries(NAMED, TEXT, max_size=3),
    shown_from=st.sampled_from(["", "2027-01-20T08:00:00-06:00"]),
)


@given(st.lists(NODES, max_size=5))
def test_an_outline_comes_back_as_it_was_written(nodes: list[Node]) -> None:
    assert read_outline({"nodes": [write_node(each) for each in nodes]}) == nodes


def test_what_a_platform_leaves_out_has_its_default_and_numbers_may_be_ids() -> None:
    node = read_node(
        {
            "id": 17,
            "kind": "lti_link",
            "folder": 4,
            "title": None,
            "column": None,
            "colour": "green",
            "custom": {"item": 9},
        }
    )
    assert node == Node("17", "", "lti_link", "4", custom={"item": "9"})


@pytest.mark.parametrize(
    ("changes", "named"),
    [
        ({"position": "2"}, "position"),
        ({"position": True}, "position"),
        ({"visible": "false"}, "visible"),  # a text that reads as true would show what is hidden
        ({"custom": ["item"]}, "custom"),
        ({"title": {"en": "Week 1"}}, "title"),
        ({"shown_from": 1_800_000_000}, "shown_from"),
        ({"kind": None}, "kind"),
        ({"id": ""}, "id"),
    ],
)
def test_a_node_that_is_none_is_named_and_not_guessed(changes: dict[str, Any], named: str) -> None:
    with pytest.raises(ValueError, match=named):
        read_node({"id": "n", "kind": "folder", "title": "Week 1"} | changes)


@pytest.mark.parametrize(
    "document", [None, [], "x", {}, {"nodes": {}}, {"nodes": [None]}, {"nodes": ["n"]}]
)
def test_an_answer_that_holds_no_outline_is_refused(document: Any) -> None:
    with pytest.raises(ValueError, match=r"outline|node"):
        read_outline(document)


def test_offers_and_the_tool_s_place() -> None:
    assert read_offers({"nodes": [], "offers": ["gradebook", "due_at"]}) == {"gradebook", "due_at"}
    assert (
        read_offers({"nodes": []}) == read_offers({"offers": "gradebook"}) == frozenset()
    )  # not letters of a word
    tool = ShellTool(True, True, 3, "everyone", "e1")
    assert read_tool(write_tool(tool)) == tool
    assert (
        read_tool({"on": False, "audience": "nobody-knows"}).audience == "instructor"
    )  # the narrower one
    with pytest.raises(ValueError, match="whether it is on"):
        read_tool({"on": "yes"})


def test_a_gradebook_comes_back_and_a_category_is_found_however_it_is_cased() -> None:
    book = Gradebook(
        ("u/1", "u/2", "u/3"),
        {"u/1": "c1", "u/2": "", "u/3": "c2"},
        (Category("c1", "Übung"), Category("c2", "Quizzes")),
    )
    assert read_gradebook(write_gradebook(book)) == book
    assert (book.title_of("u/1"), book.title_of("u/2"), book.title_of("u/9")) == ("Übung", "", "")
    assert book.category("ÜBUNG") == Category("c1", "Übung")
    assert book.category("Exams") is None
    assert read_gradebook({"columns": [], "categories": None}) == Gradebook((), {}, ())


@pytest.mark.parametrize(
    "document", [{}, {"columns": "u/1"}, {"columns": [{"category": "c"}]}, {"columns": ["u/1"]}, []]
)
def test_a_gradebook_that_is_none_is_refused(document: Any) -> None:
    with pytest.raises(ValueError, match="columns"):
        read_gradebook(document)
    with pytest.raises(ValueError, match="id or title"):
        read_category({"id": "c"})
