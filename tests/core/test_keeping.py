"""After deployment: drift on either side, links seen as a learner, what travels, averages."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from typing import Any

import pytest

from vennpair.core.deploy.capabilities import Offers, route_of, what_travels
from vennpair.core.deploy.drift import Deployed, ShellNow, find_drifts
from vennpair.core.deploy.learner_check import Met, judge, with_alike
from vennpair.core.deploy.target import Candidate, Standing, Target
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.grades import LineItem
from vennpair.standards.outline import Node
from vennpair.standards.outline.gradebook import Category, Gradebook

DUE, ZONE, URL = (
    "2027-03-12T23:59:00-06:00",
    "America/Chicago",
    "https://vennpair.example/lti/launch",
)
TARGET = Target("Quiz 1", Decimal(20), DUE, "Quizzes")
ITEM = Candidate("i", "Quiz 1", "graded", Decimal(20), DUE, category="Quizzes")
DEPLOYED = Deployed(
    "p",
    Standing(TARGET, "f", "Week 1", 0, TARGET),
    "n",
    "rl",
    "col",
    0,
    ITEM,
    {"placement": "p"},
    URL,
)
NODE = Node(
    "n",
    "Quiz 1",
    "lti_link",
    "f",
    0,
    1,
    resource_link_id="rl",
    url=URL,
    custom={"placement": "p"},
    due_at="2027-03-13T05:59:00Z",
)
COLUMN = LineItem("Quiz 1", Decimal("20.0"), "col", "p", "rl", "vennpair", "", DUE)
FOLDERS = (Node("f", "Week 1", "folder"), Node("g", "Week 2", "folder"))
BOOK = Gradebook(("col",), {"col": "c1"}, (Category("c1", "quizzes"), Category("c2", "Projects")))


def _drifts(
    deployed: Deployed = DEPLOYED,
    node: Node | None = NODE,
    column: LineItem | None = COLUMN,
    book: Gradebook | None = BOOK,
) -> list[tuple[str, str]]:
    outline = (*FOLDERS, *((node,) if node else ()))
    shell = ShellNow(
        outline,
        {column.id: column} if column else {},
        book,
        ZONE,
        frozenset({"due_at", "shown_from"}),
    )
    return [(each.kind, each.side) for each in find_drifts([deployed], shell)]


def test_nothing_has_drifted_where_only_the_writing_differs() -> None:
    assert _drifts() == []


@pytest.mark.parametrize(
    ("facts", "kind"),
    [
        ({"title": "Quiz one"}, "title"),
        ({"visible": False}, "visible"),
        ({"shown_from": DUE}, "shown_from"),
        ({"due_at": ""}, "due_at"),
        ({"folder": "g"}, "folder"),
        ({"new_window": True}, "new_window"),
        ({"url": "https://elsewhere.example"}, "leads_elsewhere"),
        ({"custom": {"placement": "q"}}, "leads_elsewhere"),
        ({"resource_link_id": "other"}, "leads_elsewhere"),
    ],
)
def test_each_change_of_a_link_is_found(facts: dict[str, Any], kind: str) -> None:
    assert _drifts(node=replace(NODE, **facts)) == [(kind, "shell")]


@pytest.mark.parametrize(
    ("facts", "kind"),
    [
        ({"score_maximum": Decimal(25)}, "points"),
        ({"label": "Q1"}, "column_title"),
        ({"end": "2027-03-13T23:59:00-06:00"}, "column_due"),
        ({"resource_link_id": "other"}, "column_link"),
    ],
)
def test_each_change_of_a_column_is_found(facts: dict[str, Any], kind: str) -> None:
    assert _drifts(column=replace(COLUMN, **facts)) == [(kind, "shell")]


def test_what_is_gone_and_what_moved_to_another_category_is_found() -> None:
    assert _drifts(node=None) == [("link_gone", "shell")]
    assert _drifts(column=None) == [("column_gone", "shell")]
    assert _drifts(book=replace(BOOK, category_of={"col": "c2"})) == [("category", "shell")]
    assert _drifts(book=None) == []


@pytest.mark.parametrize(
    ("facts", "kind"),
    [
        ({"title": "Quiz A"}, "item_title"),
        ({"points": Decimal(30)}, "item_points"),
        ({"due_at": "2027-03-20T23:59:00-05:00"}, "item_due"),
        ({"category": "Exams"}, "item_category"),
    ],
)
def test_each_change_of_an_item_is_found(facts: dict[str, Any], kind: str) -> None:
    assert _drifts(replace(DEPLOYED, now=replace(ITEM, **facts))) == [(kind, "publisher")]


def test_a_withdrawn_item_is_found() -> None:
    assert _drifts(replace(DEPLOYED, now=None)) == [("item_gone", "publisher")]


def test_another_order_is_found_once_for_a_folder_and_strangers_between_do_not_count() -> None:
    two = replace(
        DEPLOYED,
        placement="q",
        node="m",
        place=1,
        link="rm",
        column="",
        custom={"placement": "q"},
        standing=replace(DEPLOYED.standing, target=replace(TARGET, points=None)),
    )
    other = replace(NODE, id="m", resource_link_id="rm", custom={"placement": "q"})
    columns = {"col": COLUMN}
    for outline, found in (
        ((NODE, Node("x", "X", "page", "f"), other), []),
        ((other, NODE), ["order"]),
    ):
        shell = ShellNow((*FOLDERS, *outline), columns, BOOK, ZONE)
        assert [each.kind for each in find_drifts([DEPLOYED, two], shell)] == found


def test_an_altered_points_value_says_that_true_scores_stop() -> None:
    found = find_drifts(
        [DEPLOYED],
        ShellNow((*FOLDERS, NODE), {"col": replace(COLUMN, score_maximum=Decimal(25))}, BOOK, ZONE),
    )
    assert (found[0].level, found[0].before, found[0].after) == ("error", "20 points", "25 points")
    assert "Scores will be wrong" in found[0].breaks
    assert "edit the shell" in found[0].who


@pytest.mark.parametrize(
    ("met", "opens", "codes"),
    [
        (Met(opened="p", heading="Quiz 1 · Rivers"), "yes", []),
        (Met(opened="q", heading="Quiz 2"), "no", ["wrong_item"]),
        (Met(opened="p", heading="Quiz 2 · Rivers"), "no", ["wrong_item"]),
        (Met(opened="p", heading="Rivers"), "unknown", ["not_named"]),
        (Met(opened="p", heading="Rivers", addressed=False), "no", ["front_page"]),
        (Met(opened="p", heading="Rivers", alike=2), "no", ["front_page"]),
        (
            Met(opened="p", stopped="publisher", words="press.example did not answer."),
            "no",
            ["stopped_publisher"],
        ),
        (
            Met(hidden_by="it is in the hidden folder 'Later'", stopped="platform"),
            "unknown",
            ["hidden"],
        ),
        (Met(standing=False), "unknown", ["link_gone"]),
        (Met(viewed=False), "unknown", ["not_tried"]),
        (
            Met(
                opened="p",
                heading="Quiz 1",
                dates_agree=False,
                date_there="1 Jan",
                date_wanted="2 Jan",
            ),
            "yes",
            ["date_differs"],
        ),
        (Met(opened="p", heading="Quiz 1", score_back=False), "yes", ["score_lost"]),
    ],
)
def test_what_was_met_as_a_learner_is_judged(met: Met, opens: str, codes: list[str]) -> None:
    walked = judge("p", "Quiz 1", ["Quiz 1", "Quiz 2"], met)
    assert (walked.verdicts["opens"], [each.code for each in walked.findings]) == (opens, codes)
    assert all(each.remedy for each in walked.findings)


def test_what_travels_follows_from_what_both_sides_offer() -> None:
    full = Offers(
        frozenset({v.SCOPE_OUTLINE, v.SCOPE_LINE_ITEM}),
        frozenset({"gradebook", "due_at", "shown_from"}),
        True,
        True,
        True,
    )
    assert route_of(full)[0] == "outline"
    assert {row.what: row.travels for row in what_travels(full)} == {
        "points": "yes",
        "due dates": "yes",
        "calendar": "yes",
        "category": "yes",
        "order": "yes",
        "visibility": "yes",
        "attempts": "no",
        "weights and drop rules": "no",
    }
    bare = Offers(frozenset(), None, True, True, True)
    assert route_of(bare)[0] == "cartridge"
    assert route_of(Offers(frozenset({v.SCOPE_LINE_ITEM})))[0] == "deep_linking"
    assert all(row.by_hand for row in what_travels(bare) if row.travels != "yes")


def test_links_that_open_one_page_which_names_none_of_them_open_a_front_page() -> None:
    front = {"heading": "Welcome", "page": "https://press.example/"}
    mets = {
        "a": Met(opened="a", **front),
        "b": Met(opened="b", **front),
        "c": Met(opened="c", heading="Quiz 3 · Welcome", page="https://press.example/"),
        "d": Met(opened="a", **front),  # leads elsewhere: another finding
        "e": Met(opened="e", heading="Welcome", page="https://press.example/5"),
    }
    titles = {"a": "Quiz 1", "b": "Quiz 2", "c": "Quiz 3", "d": "Quiz 4", "e": "Quiz 5"}
    found = {key: met.alike for key, met in with_alike(mets, titles).items()}
    assert found == {"a": 1, "b": 1, "c": 0, "d": 0, "e": 0}
