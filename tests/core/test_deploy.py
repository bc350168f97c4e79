"""What a rollout will do, and which entry is which item."""

from __future__ import annotations

from decimal import Decimal

import pytest

from vennpair.core.deploy.plan import Candidate, plan_rollout
from vennpair.core.pair.guess import CourseFacts, likeness
from vennpair.core.pair.states import may_become

DUE = "2027-03-12T23:59:00-06:00"


def _graded(item: str, **facts: object) -> Candidate:
    return Candidate(**({"item": item, "title": item, "kind": "graded", "points": Decimal(10), "due_at": DUE} | facts))  # type: ignore[arg-type]


def test_placed_items_stay_and_the_rest_goes_to_the_end_in_order() -> None:
    plan = plan_rollout([_graded("a", placed=True), _graded("b"), _graded("c", kind="practice")], "Homework", folder_exists=True, start=4)
    assert plan.unchanged == ("a",)
    assert [(link.item, link.position, link.points) for link in plan.links] == [("b", 4, Decimal(10)), ("c", 5, None)]
    assert plan.new_folder == ""


@pytest.mark.parametrize(("undated", "links", "columns"), [("ask", 0, 0), ("column", 1, 1), ("link", 1, 0)])
def test_an_item_without_a_date_never_becomes_a_column_silently(undated: str, links: int, columns: int) -> None:
    plan = plan_rollout([_graded("a", due_at="")], "New", folder_exists=False, start=0, undated=undated)  # type: ignore[arg-type]
    assert (len(plan.links), plan.columns) == (links, columns)
    assert bool(plan.notices) == (undated != "column")
    assert plan.new_folder == ("New" if links else "")


def test_an_item_without_points_gets_no_column_and_says_so() -> None:
    plan = plan_rollout([_graded("a", points=None), _graded("b", points=Decimal(0))], "", folder_exists=True, start=0)
    assert plan.columns == 0
    assert [notice.code for notice in plan.notices] == ["points_missing", "points_missing"]


def test_teacher_only_items_are_placed_hidden() -> None:
    plan = plan_rollout([_graded("a", audience="instructor")], "", folder_exists=True, start=0)
    assert not plan.links[0].visible


def test_the_right_section_ranks_first() -> None:
    shell = CourseFacts("Rivers and Groundwater", "HYD 210-02")
    courses = [CourseFacts("Rivers and Groundwater, 3rd ed.", f"HYD 210-0{number}") for number in (1, 2, 3)] + [CourseFacts("Stones and Soils", "GEO 110-02")]
    best = max(courses, key=lambda course: likeness(shell, course).score)
    assert best.label == "HYD 210-02"
    assert likeness(shell, best).reasons == ("the title fits", "both are section 2", "the same code")


def test_a_pairing_cannot_skip_states() -> None:
    assert may_become("ready", "live")
    assert not may_become("draft", "live")
    assert not may_become("ended", "live")
