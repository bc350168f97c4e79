"""What a rollout will do in a shell: places, columns, dates, titles, order."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vennpair.core.deploy.dates import in_course, proposed_shift, read_due, same_moment, shifted
from vennpair.core.deploy.folder_guess import guess_folders
from vennpair.core.deploy.order import inserted, settled
from vennpair.core.deploy.places import NoPlace
from vennpair.core.deploy.plan import Plan, ShellSnapshot, plan_rollout
from vennpair.core.deploy.sheet import Sheet, Wish
from vennpair.core.deploy.target import Candidate, Standing, Target
from vennpair.core.deploy.titles import BadPattern, renamed, shortened, told_apart
from vennpair.core.pair.guess import CourseFacts, likeness
from vennpair.core.pair.states import may_become
from vennpair.standards.outline import Node

DUE = "2027-03-12T23:59:00-06:00"
ZONE = "America/Chicago"
GROUND = ShellSnapshot(
    (), ZONE, datetime(2027, 1, 4, tzinfo=UTC), frozenset({"gradebook", "shown_from"})
)


def _graded(item: str, **facts: object) -> Candidate:
    return Candidate(
        **(
            {"item": item, "title": item, "kind": "graded", "points": Decimal(10), "due_at": DUE}
            | facts
        )
    )  # type: ignore[arg-type]


def _plan(*items: Candidate, snapshot: ShellSnapshot = GROUND, **sheet: object) -> Plan:
    return plan_rollout(items, Sheet(**sheet), snapshot)  # type: ignore[arg-type]


def _codes(plan: Plan) -> list[str]:
    return [notice.code for notice in plan.notices]


def test_what_stands_stays_and_the_rest_is_made_in_the_publisher_s_order() -> None:
    there = Standing(
        Target("a", Decimal(10), DUE), "f1", "Homework", seen=Target("a", Decimal(10), DUE)
    )
    plan = _plan(
        _graded("c", position=3, kind="practice"),
        _graded("b", position=2),
        _graded("a", position=1, standing=there),
        folder="Homework",
        snapshot=replace(GROUND, outline=(Node("f1", "Homework", "folder"),)),
    )
    assert [(row.item, row.action, row.folder, row.target.points) for row in plan.rows] == [
        ("a", "same", "f1", Decimal(10)),
        ("b", "make", "f1", Decimal(10)),
        ("c", "make", "f1", None),
    ]
    assert plan.folders == ()


@pytest.mark.parametrize(
    ("undated", "links", "columns"), [("ask", 0, 0), ("column", 1, 1), ("link", 1, 0)]
)
def test_an_item_without_a_date_never_becomes_a_column_silently(
    undated: str, links: int, columns: int
) -> None:
    plan = _plan(_graded("a", due_at=""), folder="New", undated=undated)
    assert (len(plan.of("make")), plan.columns) == (links, columns)
    assert _codes(plan) == ([] if undated == "column" else ["due_missing"])
    assert [each.title for each in plan.folders] == (["New"] if links else [])


def test_points_that_are_missing_or_not_positive_make_no_column_unless_somebody_says_how_many() -> (
    None
):
    items = [
        _graded("a", points=None),
        _graded("b", points=Decimal(0)),
        _graded("c", points=Decimal(-5)),
        _graded("d", points=Decimal("0.1")),
    ]
    plan = _plan(*items)
    assert [row.target.points for row in plan.of("make")] == [None, None, None, Decimal("0.1")]
    assert _codes(plan) == ["points_missing"] * 3
    assert _plan(items[0], wishes={"a": Wish(points=Decimal(7))}).of("make")[0].target.points == 7
    assert _plan(items[3], wishes={"d": Wish(points=Decimal(7))}).of("make")[
        0
    ].target.points == Decimal("0.1")  # the publisher's are the truth


def test_teacher_only_items_are_placed_hidden() -> None:
    assert not _plan(_graded("a", audience="instructor"), visible=True).rows[0].target.visible


def test_each_unit_goes_into_the_folder_of_its_name_and_missing_ones_are_made_once() -> None:
    outline = (
        Node("h", "Homework", "folder"),
        Node("u1", "unit 1", "folder", "h"),
        Node("other", "Unit 2", "folder"),
    )
    items = [
        _graded("a", unit="Unit 1"),
        _graded("b", unit="Unit 2", position=1),
        _graded("c", unit="Unit 2", position=2),
        _graded("d", unit="Unit 3", position=3),
        _graded("e", position=4),
    ]
    inside = _plan(
        *items,
        into="unit",
        folder="Homework",
        folders={"Unit 3": "Week 3"},
        snapshot=replace(GROUND, outline=outline),
    )
    assert [row.folder for row in inside.rows] == ["u1", "new-1", "new-1", "new-2", "h"]
    assert [(each.title, each.parent) for each in inside.folders] == [
        ("Unit 2", "h"),
        ("Week 3", "h"),
    ]
    anywhere = _plan(*items[1:2], into="unit", snapshot=replace(GROUND, outline=outline))
    assert [row.folder for row in anywhere.rows] == ["other"]


def test_headings_and_pages_are_places_too_and_a_missing_one_is_refused() -> None:
    outline = (
        Node("f", "F", "folder"),
        Node("h1", "Week 1", "heading", "f", 0),
        Node("x", "X", "page", "f", 1),
        Node("h2", "Week 2", "heading", "f", 2),
    )
    snapshot = replace(GROUND, outline=outline)
    assert (
        _plan(_graded("a"), into="heading", folder="week 1", snapshot=snapshot).after,
        _plan(_graded("a"), into="heading", folder="Week 2", snapshot=snapshot).after,
    ) == ("x", "h2")
    paged = _plan(_graded("a"), into="page", folder="X", snapshot=snapshot)
    assert (paged.page, paged.after, paged.rows[0].folder) == ("x", "x", "f")
    with pytest.raises(NoPlace, match="no page"):
        _plan(_graded("a"), into="page", folder="gone", snapshot=snapshot)


def test_a_shown_link_in_a_hidden_folder_is_said_before() -> None:
    outline = (Node("h", "Later", "folder", visible=False), Node("u", "Unit 1", "folder", "h"))
    assert "hidden_folder" in _codes(
        _plan(_graded("a", unit="Unit 1"), into="unit", snapshot=replace(GROUND, outline=outline))
    )
    assert "hidden_folder" not in _codes(
        _plan(
            _graded("a", unit="Unit 1"),
            into="unit",
            visible=False,
            snapshot=replace(GROUND, outline=outline),
        )
    )


def test_shifted_dates_keep_the_hour_of_the_course_across_daylight_saving() -> None:
    assert shifted(DUE, 7, ZONE) == ("2027-03-19T23:59:00-05:00", False)
    assert shifted("2027-03-13T05:59:00Z", 7, ZONE) == (
        "2027-03-19T23:59:00-05:00",
        False,
    )  # written in another zone, the same hour here
    assert shifted("2027-03-07T02:30:00-06:00", 7, ZONE) == (
        "2027-03-14T03:30:00-05:00",
        True,
    )  # an hour that the clocks skip
    assert shifted(DUE, 0, ZONE) == (DUE, False)
    assert in_course("2027-03-14T02:30", ZONE) == ("2027-03-14T03:30:00-05:00", True)
    assert same_moment("2027-03-13T05:59:00Z", DUE)
    assert not same_moment("", DUE)


@pytest.mark.parametrize(
    ("written", "due_at"),
    [
        ("2027-03-12T23:59:00-06:00", "2027-03-12T23:59:00-06:00"),
        ("2027-03-13T05:59:00Z", "2027-03-13T05:59:00+00:00"),
        ("2027-03-12", "2027-03-12T23:59:00-06:00"),  # a day lasts until its end
        ("20270312", "2027-03-12T23:59:00-06:00"),
        ("2027-03-12T17:00:00", "2027-03-12T17:00:00-06:00"),  # the course's clock
        (" 2027-03-14T02:30:00", "2027-03-14T03:30:00-05:00"),  # skipped that night
        ("soon", ""),
        ("", ""),
    ],
)
def test_due_dates_are_read_as_moments_of_the_course(written: str, due_at: str) -> None:
    assert read_due(written, "America/Chicago") == due_at


def test_dates_that_cannot_be_meant_are_said() -> None:
    past = _plan(_graded("a", due_at="2026-12-01T23:59:00-06:00"))
    late = _plan(_graded("a"), shown_from="2027-04-01T08:00")
    skipped = _plan(_graded("a", due_at="2027-03-07T02:30:00-06:00"), shift_days=7)
    assert (_codes(past), _codes(late), _codes(skipped)) == (
        ["due_past"],
        ["due_before_start"],
        ["hour_skipped"],
    )
    assert late.rows[0].target.shown_from == "2027-04-01T08:00:00-05:00"
    assert (
        _plan(_graded("a"), shown_before=14).rows[0].target.shown_from
        == "2027-02-26T23:59:00-06:00"
    )


def test_titles_are_renamed_shortened_and_told_apart_before_anything_happens() -> None:
    plan = _plan(
        _graded("a", title="Sketch", unit="Unit 2"),
        _graded("b", title="Sketch", unit="Unit 5", position=1),
        pattern="{number}. {title}, {unit} ({points})",
    )
    assert [row.target.title for row in plan.rows] == [
        "1. Sketch, Unit 2 (10)",
        "2. Sketch, Unit 5 (10)",
    ]
    assert _codes(_plan(_graded("a", title="Sketch"), _graded("b", title="sketch "))) == [
        "title_equal",
        "title_equal",
    ]
    assert _codes(
        _plan(_graded("a", title="Sketch"), snapshot=replace(GROUND, titles=("Sketch",)))
    ) == ["title_equal"]
    empty = _plan(_graded("a"), wishes={"a": Wish(title="  ")})
    assert ([row.action for row in empty.rows], _codes(empty)) == (["leave_out"], ["title_empty"])
    with pytest.raises(BadPattern, match="points"):
        renamed("{score}", {"title": "a"})


@given(st.text(min_size=1, max_size=600), st.integers(10, 255))
def test_a_shortened_title_fits_and_one_that_fits_is_left_alone(title: str, longest: int) -> None:
    result = shortened(title, longest)
    assert len(result) <= longest
    assert result == title or (len(title) > longest and result.endswith("…"))


@pytest.mark.parametrize("title", ["<b>Quiz</b>", "اختبار ١", "Fluß 🌊", "x" * 300])
def test_titles_of_any_kind_come_through_as_text(title: str) -> None:
    made = _plan(_graded("a", title=title)).rows[0].target.title
    assert made == title or made == "x" * 254 + "…"


def test_an_update_follows_what_the_publisher_changed_and_leaves_what_was_chosen_here() -> None:
    seen = Target("Quiz", Decimal(10), DUE, "Quizzes")
    there = Standing(
        Target("Week 1: Quiz", Decimal(10), shifted(DUE, 7, ZONE)[0], "My own"),
        "f",
        "Folder",
        7,
        seen,
    )
    same = _graded("a", title="Quiz", category="Quizzes", standing=there)
    assert _plan(same, update=True).rows[0].action == "same"
    moved = replace(same, points=Decimal(20), due_at="2027-03-20T23:59:00-05:00")
    row = _plan(moved, update=True).rows[0]
    assert [(each.field, each.before, each.after) for each in row.differences] == [
        ("points", "10", "20"),
        ("due_at", "2027-03-19T23:59:00-05:00", "2027-03-27T23:59:00-05:00"),
    ]
    assert (row.target.title, row.target.category) == ("Week 1: Quiz", "My own")
    assert [each.field for each in _plan(same, move=True, folder="Other").rows[0].differences] == [
        "folder"
    ]


def test_orders_by_date_by_unit_and_as_chosen() -> None:
    items = [
        _graded("b", due_at="2027-03-01T00:00:00Z", unit="2", position=2),
        _graded("a", due_at="", unit="1", position=1),
        _graded("c", due_at="2027-02-28T23:00:00-05:00", unit="1", position=3),
    ]
    rows = {
        by: [row.item for row in _plan(*items, by=by, undated="link").rows]
        for by in ("publisher", "due", "unit", "chosen")
    }
    assert rows == {
        "publisher": ["a", "b", "c"],
        "due": ["b", "c", "a"],
        "unit": ["a", "c", "b"],
        "chosen": ["b", "a", "c"],
    }


@given(
    st.permutations(list("abcdefgh")),
    st.lists(st.sampled_from("abcdefgh"), unique=True),
    st.sampled_from(["start", "a", "gone", ""]),
)
def test_ordering_by_hand_keeps_everything_and_moves_only_what_was_named(
    children: list[str], named: list[str], after: str
) -> None:
    put, placed = inserted(children, named, after), settled(children, named)
    assert sorted(put) == sorted(placed) == sorted(children)
    assert (
        [each for each in put if each not in named]
        == [each for each in placed if each not in named]
        == [each for each in children if each not in named]
    )
    assert (
        [each for each in put if each in named]
        == [each for each in placed if each in named]
        == named
    )


def test_equal_titles_are_those_that_people_read_as_equal() -> None:
    assert told_apart(["Quiz  1", "quiz 1", "Quiz 2"]) == {0, 1}


def test_the_right_section_ranks_first() -> None:
    shell = CourseFacts("Rivers and Groundwater", "HYD 210-02")
    courses = [
        CourseFacts("Rivers and Groundwater, 3rd ed.", f"HYD 210-0{number}") for number in (1, 2, 3)
    ] + [CourseFacts("Stones and Soils", "GEO 110-02")]
    best = max(courses, key=lambda course: likeness(shell, course).score)
    assert best.label == "HYD 210-02"
    assert likeness(shell, best).reasons == (
        "the title fits",
        "both are section 2",
        "the same code",
    )


def test_a_pairing_cannot_skip_states() -> None:
    assert may_become("ready", "live")
    assert not may_become("draft", "live")
    assert not may_become("ended", "live")


def _guessed(units: list[str], folders: list[str]) -> dict[str, tuple[str, bool]]:
    found = guess_folders(units, [(f"n{place}", each) for place, each in enumerate(folders)])
    return {each.unit: (each.folder, bool(each.node)) for each in found}


def test_units_find_their_folders_by_name_by_number_and_by_place() -> None:
    units = ["Unit 1: Rain", "Unit 2: Rivers", "Refresher"]
    weeks = ["Week 01", "Week 02 – Rivers", "REFRESHER", "Exam 2"]
    assert _guessed(units, weeks) == {
        "Unit 1: Rain": ("Week 01", True),
        "Unit 2: Rivers": ("Week 02 – Rivers", True),
        "Refresher": ("REFRESHER", True),
    }
    assert _guessed(["Unit 2"], ["Exam 2"]) == {"Unit 2": ("Unit 2", False)}, (
        "an exam is not a part"
    )
    assert _guessed(["Unit 2"], ["Week 2 A", "Week 2 B"]) == {"Unit 2": ("Unit 2", False)}
    assert _guessed(["Rain", "Rivers"], ["Week 1", "Week 2"]) == {
        "Rain": ("Week 1", True),
        "Rivers": ("Week 2", True),
    }
    assert _guessed(["Rain", "Rivers"], ["Week 1"])["Rain"] == ("Rain", False)
    assert _guessed(["Unit 1", "Module 1"], ["Week 1"])["Module 1"] == ("Module 1", False)
    assert _guessed([], ["Week 1"]) == {}


@pytest.mark.parametrize(
    ("first", "start", "days"),
    [
        ("2027-03-12T23:59:00-06:00", None, 0),  # still to come
        ("2027-01-15T23:59:00-06:00", None, 49),  # past: into the week from now on, a Friday still
        ("2027-03-02T23:59:00-06:00", None, 7),
        ("2026-01-16T23:59:00-06:00", date(2027, 1, 13), 364),
        ("2027-01-15T23:59:00-06:00", date(2027, 1, 11), 0),
        ("", date(2027, 1, 11), 0),
    ],
)
def test_dates_are_moved_by_whole_weeks(first: str, start: date | None, days: int) -> None:
    now = datetime(2027, 3, 3, 12, tzinfo=UTC)
    found = proposed_shift(first, now, "America/Chicago", start)
    assert found == days
    assert found % 7 == 0
