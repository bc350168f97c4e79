"""What a set-up places otherwise: links with one average, one link to the course, readings too,
review units hidden, a course that the publisher makes.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from tools.world import at_campus
from tools.world.asked import QUERIES
from tools.world.world import INSTRUCTOR, PUBLISHER, World

from tests.conftest import Sides
from tests.service.campus import read_shell
from tests.service.test_set_up import begin, stages
from tests.service.test_setting_up import come_in, link_account
from vennpair.client import Refusal, VennPair
from vennpair.standins.tarnfield import LEARNERS


def test_links_with_one_average_and_readings_between_them_and_all_of_it_undone(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    side = new_sides("HYD 210-WA1")
    before = read_shell(world, side.context_id)
    found = begin(venn, [side])
    wishes: dict[str, Any] = {"way": "average", "readings": True, "undated": "link"}
    plan = venn.plan_set_up(found["id"], **wishes)[0]
    assert plan["brings"] == plan["readings"] > 10
    assert "with 0 columns" in plan["sentence"]
    assert plan["sentence"].endswith(
        f"{plan['brings']} readings and videos, a column 'Homework average' with a total."
    )
    venn.start_set_up(found["id"], **wishes)
    done = venn.wait_for_set_up(found["id"])
    assert stages(done) == ["live"], done["sections"][0]
    assert done["sections"][0]["job"]["message"].endswith(
        "the column 'Homework average' is kept up to date"
    )
    shell = read_shell(world, side.context_id)
    assert [each["title"] for each in shell["columns"]] == ["Homework average"]
    week = [row["title"] for row in shell["links"] if row["folder"].startswith("Week 2")]
    ours = [title for title in week if title.startswith(("Reading", "Video", "Practice", "Unit 2"))]
    assert [title.split(":")[0] for title in ours[:2]] == ["Reading 2", "Video 2"], week
    assert ours[2:5] == ["Practice set 2A", "Practice set 2B", "Unit 2 quiz"]
    assert not any(row["title"].startswith("Teaching notes") for row in shell["links"])
    about = venn.items(found["sections"][0]["pairing"], subject="Groundwater", kind="graded")
    assert {each["unit"][:6] for each in about} == {"Unit 5", "Unit 6"}
    assert any(each["code"] == side.label for each in venn.courses("hydrology"))
    looked = venn._http.get(f"/set-ups/{found['id']}")
    assert int(looked.headers[QUERIES]) <= 6, "sections are read one by one"
    venn.undo_set_up(found["id"])
    assert stages(venn.wait_for_set_up(found["id"])) == ["undone"]
    assert read_shell(world, side.context_id) == before


def test_a_total_with_scores_stays_and_one_without_goes(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    side = new_sides("HYD 210-WT1")
    found = begin(venn, [side])
    pairing = found["sections"][0]["pairing"]
    items = [each["id"] for each in venn.items(pairing, kind="graded")][:2]
    venn.start_set_up(
        found["id"], items=items, total="All homework", scores="later", columns_shown=False
    )
    done = venn.wait_for_set_up(found["id"])
    assert stages(done) == ["live"]
    assert "2 columns are hidden from learners" in done["sections"][0]["job"]["message"]
    made = venn.averages(pairing)[0]
    assert (made["title"], made["weighting"], sorted(made["items"])) == (
        "All homework",
        "points",
        sorted(items),
    )
    other = venn.make_average(pairing, "Nobody's", "10", items)
    venn.remove_average(pairing, other["id"])
    assert [each["title"] for each in venn.averages(pairing)] == ["All homework"]
    at_campus.type_scores(world, side.context_id, [(LEARNERS[0].email, "All homework", "50")])
    with pytest.raises(Refusal) as refused:
        venn.remove_average(pairing, made["id"])
    assert (refused.value.code, refused.value.status) == ("has_scores", 409)
    assert "All homework" in [
        each["title"] for each in read_shell(world, side.context_id)["columns"]
    ]


def test_one_link_to_the_course_and_nothing_else(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    side = new_sides("HYD 210-WC1")
    before = read_shell(world, side.context_id)
    found = begin(venn, [side])
    plan = venn.plan_set_up(found["id"], way="course")[0]
    assert plan["sentence"] == f"{side.label}: 1 link with 0 columns."
    venn.start_set_up(found["id"], way="course")
    done = venn.wait_for_set_up(found["id"])
    assert stages(done) == ["live"], done["sections"][0]
    assert "no score goes" in done["sections"][0]["job"]["message"]
    shell = read_shell(world, side.context_id)
    assert (len(shell["links"]), shell["columns"]) == (len(before["links"]) + 1, before["columns"])
    assert not venn.pairing(done["sections"][0]["pairing"])["relay_on"]


def test_a_course_is_made_within_a_set_up_and_has_the_name_that_was_asked_for(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    side = new_sides("HYD 210-WN1")
    known = next(row for row in venn.shells() if row["label"] == side.label)
    title = next(each for each in venn.titles("calder rivers") if each["can_create"])
    account = next(each for each in venn.accounts() if each["publisher_name"] == PUBLISHER)
    if account["state"] != "linked":
        link_account(come_in(world), venn, account["publisher"], INSTRUCTOR)
    begun = venn.begin_set_up(
        [(known["id"], {"title": title["id"], "name": "Rivers by night"})], agree=True
    )
    found = venn.wait_for_set_up(begun["id"])
    assert stages(found) == ["ready"], found["sections"][0]
    assert found["sections"][0]["course"].startswith("Rivers by night")
    plan = venn.plan_set_up(found["id"], way="columns", review="hide")[0]
    assert plan["plan"]["make"] > 20


def test_a_shell_that_cannot_be_written_to_says_so_and_keeps_no_other_back(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    sides = [new_sides("HYD 210-WX1"), new_sides("HYD 210-WX2")]
    found = begin(venn, sides)
    first = found["sections"][0]
    venn.withdraw(first["shell"])
    items = [each["id"] for each in venn.items(first["pairing"], kind="graded")][:2]
    plans = venn.plan_set_up(found["id"], items=items)
    assert plans[0]["plan"] is None
    assert (bool(plans[0]["message"]), bool(plans[0]["remedy"])) == (True, True)
    assert plans[0]["sentence"].startswith(f"{sides[0].label}: nothing. ")
    assert plans[1]["plan"]["make"] == 2, "items are the first section's, placed or not"
    venn.start_set_up(found["id"], items=items)
    done = venn.wait_for_set_up(found["id"])
    assert stages(done) == ["refused", "live"]
    assert done["sections"][0]["remedy"]
    titles = [each["title"] for each in read_shell(world, sides[1].context_id)["columns"]]
    assert titles == ["Practice set 1A", "Practice set 1B"]
    assert read_shell(world, sides[0].context_id)["columns"] == []
