"""One rollout into three sections: what the plan says is what is there, whatever is killed
meanwhile.
"""

from __future__ import annotations

import signal
from collections.abc import Callable
from typing import Any

import pytest
from tools.world import at_campus, at_press
from tools.world.actors import CommandLine
from tools.world.browser import Browser
from tools.world.hold import hold
from tools.world.world import World

from tests.conftest import Sides, paired
from tests.service.campus import read_shell
from vennpair.client import Refusal, VennPair
from vennpair.standins.tarnfield import section

pytestmark = pytest.mark.timed

SHEET: dict[str, Any] = {
    "into": "unit",
    "folder": "Homework",
    "shown_before": 10,
    "pattern": "{number}. {title}",
}
SHIFTS = (0, 7, 49)  # the last one across the change of the clocks


def as_planned(plan: Any) -> list[tuple[Any, ...]]:
    return [
        (
            row["target"]["title"],
            row["folder_title"],
            row["target"]["points"],
            row["target"]["due_at"],
            row["target"]["shown_from"],
            row["target"]["category"],
            row["target"]["visible"],
        )
        for row in plan["rows"]
        if row["action"] == "make"
    ]


def as_standing(found: Any) -> list[tuple[Any, ...]]:
    columns = {each["link"]: each for each in found["columns"]}
    rows = []
    for each in found["links"]:
        if each["kind"] == "lti_link":
            column = columns.get(each["title"], {})
            assert column.get("end", each["due"]) == each["due"]
            rows.append(
                (
                    each["title"],
                    each["folder"],
                    column.get("points"),
                    each["due"],
                    each["shown_from"],
                    column.get("category", ""),
                    each["visible"],
                )
            )
    return rows


# After how many writes to the campus who is killed: alone, and together with the other side.
KILLS = (
    ("/folders$", 1, "drop", ["worker"]),
    ("/entries$", 3, "drop", ["vennpair", "worker"]),
    ("/entries$", 10, "drop", ["campus"]),
    ("/entries$", 5, "before", ["worker"]),
    ("/lineitems$", 0, "drop", ["campus", "worker"]),
    ("/lineitems$", 4, "drop", ["vennpair", "campus"]),
    ("/lineitems$", 5, "after", ["worker", "campus", "vennpair"]),
)


def chosen_of(venn: VennPair, pairing: str) -> list[str]:
    return [item["id"] for item in venn.items(pairing, kind="graded") if item["due_at"]][:24]


@pytest.fixture(scope="module")
def three(new_pairing: Callable[[str], tuple[Sides, str]]) -> list[tuple[Sides, str]]:
    return [new_pairing(f"HYD 210-S{number}") for number in (1, 2, 3)]


def test_three_sections_stand_exactly_as_planned_killed_or_not(
    world: World,
    venn: VennPair,
    three: list[tuple[Sides, str]],
    new_pairing: Callable[[str], tuple[Sides, str]],
) -> None:
    calm = new_pairing("HYD 210-UNDISTURBED")
    lead = three[0][1]
    items = chosen_of(venn, lead)
    wishes = {items[3]: {"visible": False}, items[5]: {"category": "My own"}}
    sections = [
        {"pairing": pairing, "shift_days": days}
        for (_, pairing), days in zip(three[1:], SHIFTS[1:], strict=True)
    ]
    plans = venn.plan(lead, items, sections=sections, wishes=wishes, **SHEET)
    assert [(plan["make"], plan["columns"], plan["lost"]) for plan in plans] == [(24, 24, [])] * 3
    world.end("worker")
    rollouts = venn.deploy(lead, items, sections=sections, wishes=wishes, **SHEET)
    for path, after, moment, victims in KILLS:
        with hold(world, "campus", "POST", path, after=after, hold=moment) as held:
            world.start_worker()
            held.wait()
            for victim in victims:
                world.end(victim, signal.SIGKILL)
        for site in ("campus", "vennpair"):
            world.start_site(site)
    world.start_worker()
    for each in rollouts:
        venn.wait(each["job"], seconds=180)
    standing = {}
    for (sides, pairing), plan in zip(three, plans, strict=True):
        assert plan["pairing"] == pairing
        standing[pairing] = read_shell(world, sides.context_id)
        assert as_standing(standing[pairing]) == as_planned(plan)
        assert [each["title"] for each in standing[pairing]["columns"]] == [
            row[0] for row in as_planned(plan)
        ]
    undisturbed = chosen_of(venn, calm[1])
    calm_wishes = {undisturbed[3]: {"visible": False}, undisturbed[5]: {"category": "My own"}}
    venn.wait(venn.deploy(calm[1], undisturbed, wishes=calm_wishes, **SHEET)[0]["job"])
    assert read_shell(world, calm[0].context_id) == standing[lead]
    assert {row[3][-6:] for row in as_planned(plans[2])} == {"-06:00", "-05:00"}


def test_the_command_line_does_the_same_with_a_file(
    world: World, cli: CommandLine, new_pairing: Callable[[str], tuple[Sides, str]], tmp_path: Any
) -> None:
    sides = [new_pairing(f"HYD 210-F{number}")[0] for number in (1, 2)]
    sheet = tmp_path / "sheet.toml"
    sheet.write_text(
        'units = ["Unit 1", "Unit 2"]\ninto = "unit"\n[folders]\n"Unit 2" = "Week'
        ' two"\n[item."Unit 1 quiz"]\nvisible = false\n[[sections]]\nshell ='
        f' "{sides[1].label}"\nshift_days = 7\n'
    )
    done = cli.json("deploy", sides[0].label, "--file", str(sheet))
    for plan, each in zip(done["shells"], sides, strict=True):
        found = read_shell(world, each.context_id)
        links = [row for row in as_planned(plan) if not row[0].startswith("Video")]
        assert as_standing(found) == links
        assert len(links) == 7
        assert {row[1] for row in links} == {"Unit 1: Where rivers begin", "Week two"}
        assert {row[0]: row[6] for row in links}["Unit 1 quiz"] is False
    assert [row["target"]["due_at"][8:10] for row in done["shells"][1]["rows"][1:3]] == ["26", "28"]
    wrong = cli("deploy", sides[0].label, "--file", str(tmp_path / "none.toml"))
    assert (wrong.status, "none.toml" in wrong.err) == (3, True)
    sheet.write_text("into = ")
    assert cli("deploy", sides[0].label, "--file", str(sheet)).status == 3
    sheet.write_text("nonsense = 1")
    assert "nonsense" in cli("deploy", sides[0].label, "--file", str(sheet)).err


def test_a_section_of_which_nothing_is_known_is_read_first_and_never_left_out_quietly(
    world: World, venn: VennPair, cli: CommandLine, new_sides: Callable[[str], Sides], tmp_path: Any
) -> None:
    sides = [new_sides(f"HYD 210-N{number}") for number in (1, 2)]
    lead, other = (paired(venn, each) for each in sides)
    venn.wait(venn.start_import(lead)["job"])
    items = [
        item["id"]
        for item in venn.items(lead)
        if item["unit"].startswith("Unit 1:") and item["kind"] == "graded"
    ]
    _, unread = venn.plan(lead, items, sections=[{"pairing": other}])
    assert (unread["unread"], unread["lost"], unread["make"]) == (True, [], 0)
    with pytest.raises(Refusal) as refused:
        venn.deploy(lead, items, sections=[{"pairing": other}])
    assert (refused.value.code, sides[1].label in str(refused.value)) == ("not_read", True)
    assert read_shell(world, sides[0].context_id)["columns"] == []
    sheet = tmp_path / "sheet.toml"
    sheet.write_text(
        f'units = ["Unit 1"]\ninto = "unit"\n[[sections]]\nshell = "{sides[1].label}"\nfolders = {{'
        ' "unit 1" = "First week" }\n'
    )
    done = cli.json("deploy", sides[0].label, "--file", str(sheet))
    assert [(plan["unread"], plan["lost"], plan["columns"]) for plan in done["shells"]] == [
        (False, [], 3)
    ] * 2
    folders = [
        {
            each["folder"]
            for each in read_shell(world, each.context_id)["links"]
            if each["kind"] == "lti_link"
        }
        for each in sides
    ]
    assert folders == [{"Unit 1: Where rivers begin"}, {"First week"}]


def test_a_publisher_without_a_cartridge_is_read_by_its_catalogue(
    world: World, venn: VennPair, new_sides: Callable[[str], Sides]
) -> None:
    sides = new_sides("HYD 210-NOCC")
    at_press.change_course(world, sides.course, packaged=False)
    pairing = paired(venn, sides)
    said = venn.wait(venn.start_import(pairing)["job"])["message"]
    assert said.startswith(
        "Kestrelbrook Press offers no cartridge of this course, so its catalogue was read: "
    )
    graded = list(venn.items(pairing, kind="graded"))
    assert len(graded) == 32
    assert venn.wait(venn.deploy(pairing, [graded[0]["id"]])[0]["job"])["state"] == "done"


def test_a_place_that_was_chosen_in_the_first_shell_is_found_by_its_title_in_the_others(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides = [new_pairing(f"HYD 210-LIKE{number}") for number in (1, 2)]
    (_, lead), (_, other) = sides
    graded = [item["id"] for item in venn.items(lead, kind="graded") if item["due_at"]]
    venn.wait(venn.deploy(lead, graded[:2], folder="Own folder")[0]["job"])
    outline = venn.outline(lead)
    folder = next(node["id"] for node in outline if node["title"] == "Own folder")
    first = next(node["id"] for node in outline if node["folder"] == folder)
    plans = venn.plan(lead, graded[2:4], folder=folder, after=first, sections=[{"pairing": other}])
    assert [[row["folder_title"] for row in plan["rows"]] for plan in plans] == [
        ["Own folder"] * 2
    ] * 2
    assert [[each["title"] for each in plan["folders"]] for plan in plans] == [[], ["Own folder"]]
    units = {venn_item["unit"]: folder for venn_item in venn.items(lead, kind="graded")}
    by_unit = venn.plan(
        lead, graded[2:4], into="unit", folders=units, sections=[{"pairing": other}]
    )
    assert [[row["folder_title"] for row in plan["rows"]] for plan in by_unit] == [
        ["Own folder"] * 2
    ] * 2
    for each in venn.deploy(
        lead, graded[2:4], folder=folder, after=first, sections=[{"pairing": other}]
    ):
        venn.wait(each["job"])
    here, there = (
        [
            each["title"]
            for each in read_shell(world, each.context_id)["links"]
            if each["folder"] == "Own folder"
        ]
        for each, _ in sides
    )
    titles = {item["id"]: item["shown_title"] for item in venn.items(lead, kind="graded")}
    assert here == [titles[graded[place]] for place in (0, 2, 3, 1)]
    assert there == [titles[graded[place]] for place in (2, 3)]


def undo(venn: VennPair, operation: str) -> None:
    venn.wait(venn.job(venn.undo_operation(operation)["id"]))


def test_a_rollout_is_stopped_gone_on_with_and_undone(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-UNDO")
    items = chosen_of(venn, pairing)
    rollout = venn.deploy(pairing, items, into="unit")[0]
    venn.stop_operation(rollout["job"]["id"])
    with pytest.raises(Refusal) as stopped:
        venn.wait(rollout["job"])
    assert stopped.value.code == "job_cancelled"
    half = venn.rollout(pairing, rollout["id"])
    assert half["failed"] > 0
    again = venn.job(venn.retry_operation(rollout["job"]["id"])["id"])
    assert "24 items placed" in venn.wait(again)["message"]
    assert len(read_shell(world, sides.context_id)["columns"]) == 24
    assert all(not row["why"] for row in venn.plan_operation_undo(rollout["job"]["id"]))
    undo(venn, rollout["job"]["id"])
    assert read_shell(world, sides.context_id) == {
        "links": read_shell(world, sides.context_id)["links"],
        "columns": [],
    }
    assert not [
        each
        for each in read_shell(world, sides.context_id)["links"]
        if each["kind"] == "lti_link" or each["folder"]
    ]
    assert len(list(venn.placements(pairing))) == 0
    with pytest.raises(Refusal) as twice:
        venn.undo_operation(rollout["job"]["id"])
    assert twice.value.code == "nothing_to_do"


def test_order_by_date_and_by_hand_is_one_call_and_one_undo(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-ORD")
    items = chosen_of(venn, pairing)[:6]
    venn.wait(venn.deploy(pairing, list(reversed(items)), by="chosen", folder="Homework")[0]["job"])
    before = read_shell(world, sides.context_id)
    assert venn.plan_order(pairing, by="due")["folders"][0]["folder"] == "Homework"
    rollout = venn.order(pairing, by="due")
    venn.wait(rollout["job"])
    after = read_shell(world, sides.context_id)
    assert [each["due"] for each in after["links"] if each["kind"] == "lti_link"] == sorted(
        each["due"] for each in after["links"] if each["kind"] == "lti_link"
    )
    assert [each["title"] for each in after["columns"]] == [
        each["title"] for each in after["links"] if each["kind"] == "lti_link"
    ]
    last = next(iter(venn.placements(pairing)))["entry_id"]
    venn.wait(venn.order(pairing, entries=[last], after="")["job"])
    assert [
        each["title"]
        for each in read_shell(world, sides.context_id)["links"]
        if each["kind"] == "lti_link"
    ][-1] == "Practice set 1A"
    undo(venn, next(each["job"]["id"] for each in venn.rollouts(pairing)))
    undo(venn, rollout["job"]["id"])
    assert read_shell(world, sides.context_id) == before


def test_a_folder_that_went_between_plan_and_run_is_said_and_the_rest_done(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-GONE")
    items = chosen_of(venn, pairing)[:4]
    venn.wait(venn.deploy(pairing, items[:1], folder="Homework")[0]["job"])
    world.end("worker", signal.SIGTERM)
    try:
        rollout = venn.deploy(pairing, items[1:], folder="Homework")[0]
        with pytest.raises(Refusal) as second:
            venn.deploy(pairing, items[1:], folder="Other")
        assert second.value.code == "rollout_running"
        at_campus.delete_entries(world, sides.context_id, "Homework", kind="folder")
    finally:
        world.start_worker()
    venn.wait(rollout["job"])
    failed = [
        step for step in venn.rollout(pairing, rollout["id"])["steps"] if step["state"] == "failed"
    ]
    assert len(failed) == 6
    assert "no such folder" in failed[0]["message"]
    assert {each["placed"] for each in venn.items(pairing) if each["id"] in items[1:]} == {"failed"}
    assert (
        "3 items placed"
        in venn.wait(venn.deploy(pairing, items[1:], folder="New")[0]["job"])["message"]
    )


def test_a_link_in_a_page_s_text_opens_its_item_and_leaves_no_entry(
    world: World, cli: CommandLine, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-TEXT")
    body = "<p>First <b>measure the depth</b> twice.</p><p>Then rest.</p>"
    at_campus.add_entry(world, sides.context_id, "page", "Read me", body=body, position=50)
    one, other = chosen_of(venn, pairing)[:2]
    titles = {each["id"]: each["shown_title"] for each in venn.items(pairing)}
    words = [titles[one], titles[other], "--in-page", "Read me", "--after-text", "twice"]
    words += ["--words", f"{titles[one]}=measure the depth"]
    ahead = cli("deploy", sides.label, *words, "--dry-run")
    assert f"First [measure the depth] twice.\n[{titles[other]}]\nThen rest." in ahead.out
    unknown = cli(
        "deploy",
        sides.label,
        titles[one],
        "--in-page",
        "Read me",
        "--words",
        f"{titles[one]}=no such words",
        "--dry-run",
    )
    assert "gets a line of its own" in unknown.out
    before = at_campus.outline(world, sides.context_id)
    done = cli.json("deploy", sides.label, *words)
    assert done["rollouts"][0]["job"]["state"] == "done"

    learner = Browser()
    campus = world.url("campus")
    learner.sign_in(campus, section(2)[0].email)
    shell = learner.get(f"{campus}/shells/{sides.context_id}")
    assert titles[one] not in shell.words, "nothing is beside the page"
    key = next(row["key"] for row in before if row["title"] == "Read me")
    page = learner.get(f"{campus}/shells/{sides.context_id}/pages/{key}")
    links = page.tree.xpath("//a[contains(@href, '/pages/')]")
    assert [each.text_content() for each in links] == ["measure the depth", titles[other]]
    opened = learner.get(f"{campus}{links[0].get('href')}")
    assert opened.url.startswith(world.url("press")), opened.url
    assert titles[one] in opened.words

    at_campus.edit_entry(world, sides.context_id, "Read me", body=body)
    venn.wait(venn.look_for_drift(pairing))
    drifts = venn.watch(pairing)["drifts"]
    assert [(each["kind"], each["before"]) for each in drifts] == [("page_link", "Read me")] * 2
    made = venn.mend(pairing, drifts, "follow")
    assert made is not None
    venn.wait(made["job"])
    outline = at_campus.outline(world, sides.context_id)
    text = next(row["body"] for row in outline if row["title"] == "Read me")
    assert text.count("urn:vennpair:entry:") == 2
    venn.wait(venn.look_for_drift(pairing))
    assert venn.watch(pairing)["drifts"] == []


def test_links_go_under_headings_and_into_the_text_of_pages(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-PAGE")
    made = (("heading", "First half"), ("page", "Read me"), ("heading", "Second half"))
    for place, (kind, title) in enumerate(made, start=50):
        at_campus.add_entry(
            world, sides.context_id, kind, title, body="<p>Hello</p>", position=place
        )
    items = chosen_of(venn, pairing)[:4]
    venn.wait(venn.deploy(pairing, items[:2], into="heading", folder="First half")[0]["job"])
    venn.wait(venn.deploy(pairing, items[2:], into="page", folder="Read me")[0]["job"])
    found = [each["title"] for each in read_shell(world, sides.context_id)["links"]]
    found = found[found.index("First half") :]
    assert found == [
        "First half",
        "Read me",
        "Unit 1 quiz",
        "Practice set 2A",
        "Practice set 1A",
        "Practice set 1B",
        "Second half",
    ]
    outline = at_campus.outline(world, sides.context_id)
    levels = {row["title"]: row["level"] for row in outline}
    assert [levels[title] for title in found] == [0, 0, 0, 0, 1, 1, 0], "set in below the heading"
    words = next(row["body"] for row in outline if row["title"] == "Read me")
    assert words.count("urn:vennpair:entry:") == 2
    assert "<p>Hello</p>" in words
