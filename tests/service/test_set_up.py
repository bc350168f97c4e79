"""Several sections set up as one: begun, planned, started, stopped, killed, taken back."""

from __future__ import annotations

import signal
from collections.abc import Callable
from typing import Any

import pytest
from tools.world import at_campus
from tools.world.actors import CommandLine, hand_in
from tools.world.asked import QUERIES
from tools.world.browser import Browser
from tools.world.differences import until_scores
from tools.world.hold import hold
from tools.world.world import INSTRUCTOR, World

from tests.conftest import Sides
from tests.service.campus import read_shell
from vennpair.client import Refusal, VennPair
from vennpair.standins.tarnfield import section

pytestmark = pytest.mark.timed

UNIT = "Unit 1:"


def begin(venn: VennPair, sides: list[Sides]) -> Any:
    """Begin a set-up of shells whose courses the service has read of; wait until they are read."""
    list(venn.courses(sides[0].label, refresh=True))
    known = {row["label"]: row["id"] for row in venn.shells()}
    begun = venn.begin_set_up([(known[each.label], None) for each in sides], agree=True)
    return venn.wait_for_set_up(begun["id"])


def some(venn: VennPair, found: Any) -> list[str]:
    """Return the graded items of the first section's first unit."""
    items = venn.items(found["sections"][0]["pairing"], kind="graded")
    return [each["id"] for each in items if each["unit"].startswith(UNIT)]


def stages(found: Any) -> list[str]:
    return [each["stage"] for each in found["sections"]]


def test_three_sections_are_set_up_as_planned_and_one_that_cannot_be_keeps_none_back(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    sides = [new_sides(f"HYD 210-SU{number}") for number in (1, 2)]
    alone = at_campus.add_shell(world, "BIO 101-NONE")["label"]
    before = [read_shell(world, each.context_id) for each in sides]
    list(venn.courses(sides[0].label, refresh=True))
    known = {row["label"]: row["id"] for row in venn.shells()}
    assert alone not in known, "nobody has opened it, so it cannot be named"
    with pytest.raises(Refusal) as refused:
        venn.begin_set_up([("00000000-0000-4000-8000-000000000000", None)], agree=True)
    assert refused.value.status == 404
    unread = venn.begin_set_up([(known[each.label], None) for each in sides])
    assert stages(unread) == ["refused"] * 2, "nobody agreed"
    assert unread["sections"][0]["remedy"]

    found = begin(venn, sides)
    assert stages(found) == ["ready"] * 2
    for each, side in zip(found["sections"], sides, strict=True):
        assert each["course"].endswith(side.label)
    items = some(venn, found)
    shifts = {found["sections"][1]["shell"]: 7}
    plans = venn.plan_set_up(found["id"], items=items, shifts=shifts, access="fee")
    assert plans[0]["sentence"] == f"{sides[0].label}: 3 links with 3 columns."
    assert plans[1]["sentence"].endswith("3 links with 3 columns, dates moved by 7 days on.")
    assert plans[0]["folders"][0] | {"node": ""} == {
        "unit": "Unit 1: Where rivers begin",
        "folder": "Week 1: Where rivers begin",
        "node": "",
        "why": "both are number 1",
    }
    assert [read_shell(world, each.context_id) for each in sides] == before

    venn.start_set_up(found["id"], items=items, shifts=shifts, access="fee")
    done = venn.wait_for_set_up(found["id"])
    assert stages(done) == ["live"] * 2
    assert {each["job"]["message"] for each in done["sections"]} == {
        "3 links placed; 3 links opened as a test learner, all as they should be; scores go as"
        " learners hand in"
    }
    for side, live, plan in zip(sides, done["sections"], plans, strict=True):
        shell = read_shell(world, side.context_id)
        assert [each["end"] for each in shell["columns"]] == [
            row["target"]["due_at"] for row in plan["plan"]["rows"] if row["action"] == "make"
        ]
        folders = {each["folder"] for each in shell["links"] if each["kind"] == "lti_link"}
        assert folders == {"Week 1: Where rivers begin"}
        assert any(each["title"].startswith("First steps") for each in shell["links"])
        pairing = venn.pairing(live["pairing"])
        assert (pairing["state"], pairing["relay_on"]) == ("live", True)
    assert [each["troubles"] for each in done["sections"]] == [0, 0]
    assert int(venn._http.get(f"/set-ups/{found['id']}").headers[QUERIES]) <= 6, "one by one"
    notices = [each["sentence"] for each in venn.notices()]
    assert f"{done['words']}." in notices
    assert done["words"].startswith("2 sections are live: 6 links placed, 6 opened as a learner;")
    assert not any(each.startswith(tuple(side.label for side in sides)) for each in notices)
    with pytest.raises(Refusal) as refused:
        venn.start_set_up(found["id"], items=items)
    assert refused.value.code in {"started_already", "not_ready"}

    venn.undo_set_up(found["id"])
    undone = venn.wait_for_set_up(found["id"])
    assert stages(undone) == ["undone"] * 2
    assert [read_shell(world, each.context_id) for each in sides] == before
    assert {row["state"] for row in venn.shells() if row["label"] in {s.label for s in sides}} == {
        "unpaired"
    }
    with pytest.raises(Refusal) as refused:
        venn.undo_set_up(found["id"])
    assert refused.value.code == "nothing_to_do"


# After how many writes to the campus the worker is killed: at a link, a column, the page.
KILLS = (("/entries$", 1), ("/lineitems$", 0), ("/scores$", 1), ("/entries$", 0))


def test_a_worker_that_is_killed_again_and_again_leaves_nothing_doubled(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    sides = [new_sides(f"HYD 210-SK{number}") for number in (1, 2)]
    killed, calm = (begin(venn, [each]) for each in sides)
    wishes: dict[str, Any] = {"access": "free", "scores": "due"}
    world.end("worker")
    venn.start_set_up(killed["id"], items=some(venn, killed), **wishes)
    for path, after in KILLS:
        with hold(world, "campus", "POST", path, after=after, hold="drop") as held:
            world.start_worker()
            held.wait()
            world.end("worker", signal.SIGKILL)
    world.start_worker()
    done = venn.wait_for_set_up(killed["id"])
    assert stages(done) == ["live"]
    venn.start_set_up(calm["id"], items=some(venn, calm), **wishes)
    undisturbed = venn.wait_for_set_up(calm["id"])

    shells = [_unnamed(read_shell(world, each.context_id), each.label) for each in sides]
    assert stages(undisturbed) == ["live"]
    assert shells[0] == shells[1]
    assert done["sections"][0]["job"]["message"].endswith("scores go after the due date")


def _unnamed(shell: Any, label: str) -> Any:
    for each in shell["links"]:
        each["title"] = each["title"].replace(label, "LABEL")
    return shell


def test_a_set_up_that_is_stopped_keeps_what_was_done_and_says_so(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    found = begin(venn, [new_sides("HYD 210-SST")])
    with hold(world, "campus", "POST", "/lineitems$") as held:
        venn.start_set_up(found["id"], items=some(venn, found))
        held.wait()
        with pytest.raises(Refusal) as refused:
            venn.undo_set_up(found["id"])
        assert refused.value.code == "running"
        venn.stop_set_up(found["id"])
    stopped = venn.wait_for_set_up(found["id"])
    assert stages(stopped) == ["stopped"]
    assert venn.pairing(found["sections"][0]["pairing"])["relay_on"] is False
    with pytest.raises(Refusal) as refused:
        venn.stop_set_up(found["id"])
    assert refused.value.code == "nothing_running"


def test_one_command_does_the_same(
    world: World, cli: CommandLine, venn: VennPair, new_sides: Callable[[str], Sides], tmp_path: Any
) -> None:
    sides = [new_sides(f"HYD 210-SC{number}") for number in (1, 2)]
    list(venn.courses(sides[0].label, refresh=True))
    words = ["set-up", sides[0].label, "--with", f"{sides[1].label}:2"]
    refused = cli(*words)
    assert (refused.status, "--agree" in refused.err) == (6, True)
    assert cli(*words, "--dry-run").status == 0
    assert all(not row["pairing"] for row in venn.shells() if row["label"] == sides[0].label)
    sheet = tmp_path / "sheet.toml"
    sheet.write_text('items = ["Practice set 1A", "Unit 1 quiz"]\n[folders]\n"Unit 1" = "Start"\n')
    planned = cli.json(*words, "--agree", "--file", str(sheet), "--plan")
    assert [each["plan"]["make"] for each in planned["sections"]] == [2, 2]
    assert [each["plan"]["shift_days"] for each in planned["sections"]] == [None, 2]
    begun = cli.json("set-up", "--list")
    looked = cli.json(*words, "--dry-run", "--file", str(sheet))
    assert (looked["set_up"], looked["sections"]) == (None, planned["sections"])
    assert cli.json("set-up", "--list") == begun, "nothing is left of a look"
    done = cli.json(*words, "--agree", "--file", str(sheet), "--scores", "later")
    assert stages(done) == ["live", "live"]
    for side in sides:
        shell = read_shell(world, side.context_id)
        assert [each["title"] for each in shell["columns"]] == ["Practice set 1A", "Unit 1 quiz"]
        assert {each["folder"] for each in shell["links"] if each["kind"] == "lti_link"} == {
            "Start"
        }
    assert done["id"] in [row["id"] for row in cli.json("set-up", "--list")]
    undone = cli("set-up", "--undo", done["id"][:8])
    assert (undone.status, undone.out.count("undone")) == (0, 2)
    assert read_shell(world, sides[0].context_id)["columns"] == []
    assert cli("set-up", "--undo", "zzzz").status == 2


def test_where_a_learner_has_worked_undoing_keeps_the_link_its_relay_and_its_pairing(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    side = new_sides("HYD 210-SUW")
    found = begin(venn, [side])
    venn.start_set_up(found["id"], items=some(venn, found))
    assert stages(venn.wait_for_set_up(found["id"])) == ["live"]
    pairing = found["sections"][0]["pairing"]
    hand_in(world, section(2)[0].email, side.context_id, "Practice set 1A", 3)
    until_scores(venn, pairing, accepted=1)
    venn.undo_set_up(found["id"])
    (undone,) = venn.wait_for_set_up(found["id"])["sections"]
    assert (undone["stage"], undone["job"]["message"].split(" in ")[0]) == (
        "undone",
        "1 link stays",
    )
    about = venn.pairing(pairing)
    assert (about["state"], about["relay_on"]) == ("live", True)
    shell = read_shell(world, side.context_id)
    assert [each["title"] for each in shell["columns"]] == ["Practice set 1A"]
    assert len(at_campus.scores(world, side.context_id)) == 1


def test_a_launch_lands_where_setting_up_goes_on(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    side, teacher = new_sides("HYD 210-SUL"), Browser()
    teacher.sign_in(world.url("campus"), INSTRUCTOR)

    def landed() -> str:
        return teacher.open_link(world.url("campus"), side.context_id).url

    assert "/set-up?shell=" in landed()
    found = begin(venn, [side])
    assert landed().endswith(f"/set-ups/{found['id']}")
    venn.start_set_up(found["id"], items=some(venn, found))
    venn.wait_for_set_up(found["id"])
    assert landed().endswith(f"/pairings/{found['sections'][0]['pairing']}")
    venn.undo_set_up(found["id"])
    venn.wait_for_set_up(found["id"])
    assert "/set-up?shell=" in landed()


def test_learners_find_the_tool_in_the_navigation_until_it_is_undone(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    side = new_sides("HYD 210-NAV")
    found = begin(venn, [side])
    shell = found["sections"][0]["shell"]
    venn.start_set_up(found["id"], items=some(venn, found), navigation=True)
    done = venn.wait_for_set_up(found["id"])
    assert stages(done) == ["live"]
    assert venn.shell_tool(shell)["audience"] == "everyone"
    learner = Browser()
    learner.sign_in(world.url("campus"), section(2)[0].email)
    page = learner.open_link(world.url("campus"), side.context_id)
    assert f"Your homework in {side.label}" in page.words
    venn.undo_set_up(found["id"])
    assert stages(venn.wait_for_set_up(found["id"])) == ["undone"]
    assert venn.shell_tool(shell)["audience"] == "instructor"
