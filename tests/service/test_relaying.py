"""What an instructor chose, said and changed: held and released scores, learners who left, reports
by pull and file, totals that keep up.
"""

from __future__ import annotations

import json
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from tools.house.shop import CommandLine, hand_in
from tools.house.world import World

from tests.conftest import Sides
from vennpair.client import Refusal, VennPair
from vennpair.standins.tarnfield import section

LEARNERS = section(2)[:6]
FIRST, QUIZ, UNPLACED = "Practice set 1A", "Unit 1 quiz", "Practice set 4B"


@pytest.fixture(scope="module")
def live(venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]) -> tuple[Sides, str]:
    """A pairing with two items deployed, the relay on, and every learner known on both sides."""
    sides, pairing = new_pairing("HYD 210-RULES")
    items = [item["id"] for item in venn.items(pairing) if item["title"] in {FIRST, QUIZ}]
    venn.wait(venn.deploy(pairing, items, folder="Homework")[0]["job"])
    venn.change_pairing(pairing, relay_on=True)
    return sides, pairing


def until(venn: VennPair, pairing: str, seconds: float = 30, **wanted: Any) -> dict[str, int]:
    """Wait until the cells in these states are so many."""
    deadline = time.monotonic() + seconds
    while True:
        counts = venn.relay(pairing)["counts"]
        if all(counts.get(state, 0) == count for state, count in wanted.items()):
            return counts
        assert time.monotonic() < deadline, (counts, wanted)
        time.sleep(0.2)


def answer(world: World, sides: Sides, who: int, title: str, score: str, *more: str) -> None:
    world.manage(
        "press",
        "answer",
        "--course",
        sides.course,
        "--email",
        LEARNERS[who].email,
        "--item",
        title,
        "--score",
        score,
        *more,
    )


def rule_item(venn: VennPair, pairing: str, title: str) -> dict[str, Any]:
    return next(each for each in venn.relay_rules(pairing)["items"] if each["title"] == title)


def shown(world: World, sides: Sides, title: str) -> dict[str, float]:
    """Return what the campus's gradebook holds in a column, by address."""
    find = (
        "import json; from vennpair.standins.campus.models import *; print('ROWS' +"
        " json.dumps({c.person.email: float(c.score) for c in"
        f" Cell.objects.filter(column__shell__context_id='{sides.context_id}',"
        f" column__label='{title}').exclude(score=None)}}))"
    )
    return dict(
        json.loads(world.manage("campus", "shell", "-v", "0", "-c", find).rpartition("ROWS")[2])
    )


def test_scores_are_held_by_hand_until_they_are_released_and_later_ones_go(
    world: World, venn: VennPair, cli: CommandLine, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    told = cli.json(
        "relay", "rule", sides.label, "--item", FIRST, "--when", "hand", "--look-first", "--dry-run"
    )
    assert "goes when you release it" in told["words"]
    assert rule_item(venn, pairing, FIRST)["own"] == {}
    cli.json("relay", "rule", sides.label, "--item", FIRST, "--when", "hand", "--look-first")
    for who in (0, 1):
        hand_in(world, LEARNERS[who].email, sides.context_id, FIRST, 3)
    until(venn, pairing, held=2)
    relay = venn.relay(pairing)
    assert (relay["held"], relay["verdict"]["act"]) == ({"hand": 2}, "release")
    assert shown(world, sides, FIRST) == {}
    assert cli.json("relay", "show", sides.label, "--hide", "--item", FIRST)[0]["result"] == "done"
    assert cli.json("relay", "release", sides.label, "--dry-run")["released"] == 2
    assert cli.json("relay", "release", sides.label)["released"] == 2
    until(venn, pairing, accepted=2, held=0)
    answer(world, sides, 0, FIRST, "8")
    until(venn, pairing, accepted=2)
    assert shown(world, sides, FIRST)[LEARNERS[0].email] == 8
    story = cli.json("relay", "story", sides.label, "--learner", LEARNERS[0].email, "--item", FIRST)
    assert [each["given"] for each in story["ledger"]] == ["6", "8"]
    assert [
        each["what"] for each in story["passages"] if each["what"] in {"released", "accepted"}
    ] == ["released", "accepted", "accepted"]


def test_after_the_due_date_all_go_at_once(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    venn.change_rule(pairing, "category", "Quizzes", {"when": "due"})
    for who in (0, 1, 2):
        hand_in(world, LEARNERS[who].email, sides.context_id, QUIZ, 4)
    until(venn, pairing, held=3)
    cell = next(venn.scores(pairing, state="held"))
    assert (cell["why"], cell["until"]) == (
        "due",
        "2027-01-23T05:59:00Z",
    )  # 23:59 of the day before, in the course's zone
    assert "22 Jan 2027, 23:59" in cell["reason"]
    assert venn.release(pairing, dry_run=True) == 0  # it waits for a time, not for a person
    passed = (
        "from vennpair.service.relay.models import *; from vennpair.service.deploy.models import"
        " Placement; from django.utils import timezone as t;"
        f" Placement.objects.filter(pairing='{pairing}',"
        f" title='{QUIZ}').update(due_date=t.now().isoformat());"
        f" Cell.objects.filter(pairing='{pairing}', state='held').update(until=t.now()); from"
        " vennpair.service.relay.waking import take_up_relays; print(take_up_relays(t.now()))"
    )
    assert world.manage("vennpair", "shell", "-v", "0", "-c", passed).split()[-1] != "0"
    until(venn, pairing, held=0)
    assert len(shown(world, sides, QUIZ)) == 3


def test_our_own_choice_of_attempt_is_kept_by_relay_and_comparison_alike(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    with pytest.raises(Refusal, match="one of"):
        venn.change_rule(pairing, "all", "", {"counts": "luckiest"})
    venn.change_rule(
        pairing,
        "item",
        rule_item(venn, pairing, FIRST)["item"],
        {"counts": "best", "points": "column", "places": 0},
    )
    until(venn, pairing, waiting=0, sending=0)
    answer(world, sides, 0, FIRST, "2")
    answer(world, sides, 1, FIRST, "9.5")
    deadline = time.monotonic() + 30
    while shown(world, sides, FIRST).get(LEARNERS[1].email) != 10:  # half a point goes up
        assert time.monotonic() < deadline, shown(world, sides, FIRST)
        time.sleep(0.3)
    assert shown(world, sides, FIRST)[LEARNERS[0].email] == 8
    comparison = venn.compare(pairing)
    venn.wait(comparison["job"])
    assert not [
        each
        for each in venn.findings(pairing, comparison["id"], scope="cell")
        if each["item"] == FIRST
    ]
    answer(world, sides, 1, FIRST, "9.5", "--delete")
    deadline = time.monotonic() + 30
    while shown(world, sides, FIRST)[LEARNERS[1].email] != 6:
        assert time.monotonic() < deadline, "the attempt before the deleted one counts again"
        time.sleep(0.3)


def enrol(world: World, sides: Sides, who: int, active: bool) -> None:
    change = (
        "from vennpair.standins.campus.models import *;"
        f" Enrolment.objects.filter(shell__context_id='{sides.context_id}',"
        f" person__email='{LEARNERS[who].email}').update(active={active})"
    )
    world.manage("campus", "shell", "-v", "0", "-c", change)
    again = (
        "from vennpair.service.pair.models import *; from"
        " vennpair.service.pair.actions.refresh_roster import refresh_roster;"
        f" refresh_roster(Shell.objects.get(context_id='{sides.context_id}'))"
    )
    world.manage("vennpair", "shell", "-v", "0", "-c", again)


def test_a_dropped_learner_s_scores_are_kept_and_go_when_they_come_back(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    enrol(world, sides, 2, active=False)
    answer(world, sides, 2, QUIZ, "19")
    until(venn, pairing, held=1)
    cell = next(venn.scores(pairing, state="held"))
    assert (cell["why"], cell["learner"]) == (
        "dropped",
        f"{LEARNERS[2].given} {LEARNERS[2].family}",
    )
    assert shown(world, sides, QUIZ)[LEARNERS[2].email] == 10
    enrol(world, sides, 2, active=True)
    until(venn, pairing, held=0, waiting=0, sending=0)
    assert shown(world, sides, QUIZ)[LEARNERS[2].email] == 19


def test_results_are_pulled_from_where_the_last_reading_ended_and_strangers_wait(
    world: World, venn: VennPair, cli: CommandLine, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    first = cli.json("relay", "pull", sides.label)
    assert first["state"] == "done"
    received = venn.relay(pairing)["received"]
    answer(world, sides, 0, QUIZ, "15", "--lost")
    assert "1 new" in cli.json("relay", "pull", sides.label)["message"]
    assert venn.relay(pairing)["received"] == received + 1
    until(venn, pairing, waiting=0, sending=0, held=0)
    assert shown(world, sides, QUIZ)[LEARNERS[0].email] == 15
    stranger = (
        "from vennpair.standins.press.models import *; from django.utils import timezone as t;"
        " a=Account.objects.create(given_name='Ula', family_name='Wade',"
        f" email='ula.{sides.course}@elsewhere.example');"
        f" c=Course.objects.get(sourced_id='{sides.course}'); Enrolment.objects.create(course=c,"
        " account=a, role='student'); Attempt.objects.create(item=Item.objects.get(unit__course=c,"
        f" title='{QUIZ}'), account=a, score=13, at=t.now()); print(a.sourced_id)"
    )
    account = world.manage("press", "shell", "-v", "0", "-c", stranger).split()[-1]
    cli.json("relay", "pull", sides.label)
    assert [(each["name"], each["given"]) for each in venn.strays(pairing)] == [
        ("Ula Wade", "13 of 20")
    ]
    assert venn.relay(pairing)["verdict"]["act"] == "match"
    find = (
        "from vennpair.service.pair.models import *;"
        f" print(Learner.objects.get(shell__context_id='{sides.context_id}',"
        f" email='{LEARNERS[5].email}').pk)"
    )
    venn.confirm_match(
        pairing, account, world.manage("vennpair", "shell", "-v", "0", "-c", find).split()[-1]
    )
    until(venn, pairing, waiting=0, sending=0)
    assert (list(venn.strays(pairing)), shown(world, sides, QUIZ)[LEARNERS[5].email]) == ([], 13)


def test_scores_come_from_a_file_once(
    world: World, venn: VennPair, cli: CommandLine, live: tuple[Sides, str], tmp_path: Path
) -> None:
    sides, pairing = live
    table = tmp_path / "scores.csv"
    rows = [
        f",{LEARNERS[3].email},,{QUIZ},17,20,",
        f",{LEARNERS[0].email},,{QUIZ},15,20,",
        f",nobody@elsewhere.example,,{QUIZ},3,20,",
    ]
    table.write_text(
        "learner_id,learner_email,learner_name,item,score,points,at\n" + "\n".join(rows) + "\n"
    )
    told = cli.json("relay", "upload", sides.label, str(table), "--dry-run")
    assert (told["scores"], told["matched"], told["changed"]) == (3, 2, 2)  # one is known already
    cli.json("relay", "upload", sides.label, str(table))
    until(venn, pairing, waiting=0, sending=0)
    assert shown(world, sides, QUIZ)[LEARNERS[3].email] == 17
    assert (
        cli.json("relay", "upload", sides.label, str(table), "--dry-run")["changed"] == 1
    )  # nobody's is still nobody's
    table.write_text(
        'learner_id,learner_email,learner_name,item,score,points,at\n,a@b.example,,Quiz,"12,5",20,\n'
    )
    refused = cli("relay", "upload", sides.label, str(table))
    assert (refused.status, "Line 2" in refused.err) == (6, True)


def test_a_total_keeps_up_by_category_weights_and_leaves_what_was_typed(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    with pytest.raises(Refusal, match="no weight"):
        venn.make_average(
            pairing,
            "Term total",
            "100",
            [],
            categories=["Practice", "Quizzes"],
            weighting="categories",
            weights={"Practice": "30"},
        )
    made = venn.make_average(
        pairing,
        "Term total",
        "100",
        [],
        categories=["Practice", "Quizzes"],
        weighting="categories",
        weights={"Practice": "30", "Quizzes": "70"},
        missing="ignored",
        keeps_up=True,
    )
    rows = {row["learner"]: row for row in venn.average_rows(pairing, made["id"])}
    mine = rows[f"{LEARNERS[0].given} {LEARNERS[0].family}"]
    assert (
        mine["score"] == "58.50"
    )  # 30 % of 2/10 (the publisher counts the last) and 70 % of 15/20
    assert mine["arithmetic"][-1] == "58.5 % of 100 points is 58.5"
    venn.wait(venn.send_average(pairing, made["id"]))
    assert shown(world, sides, "Term total")[LEARNERS[0].email] == 58.5
    typed = (
        "from vennpair.standins.campus.models import *; Cell.objects.filter(column__label='Term"
        f" total', column__shell__context_id='{sides.context_id}',"
        f" person__email='{LEARNERS[2].email}').update(score=99)"
    )
    world.manage("campus", "shell", "-v", "0", "-c", typed)
    answer(world, sides, 0, QUIZ, "20")
    job = venn.wait(venn.send_average(pairing, made["id"]))
    assert job["message"].startswith("1 total sent")
    assert "left as somebody typed them" in job["message"]
    assert shown(world, sides, "Term total")[LEARNERS[2].email] == 99
    assert shown(world, sides, "Term total")[LEARNERS[0].email] == 76


def test_a_column_that_is_gone_is_named_once_for_all_its_scores(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    world.manage(
        "campus",
        "shell",
        "-v",
        "0",
        "-c",
        "from vennpair.standins.campus.models import *;"
        f" Column.objects.get(shell__context_id='{sides.context_id}', label='{QUIZ}').delete()",
    )
    for who in (0, 1):
        answer(world, sides, who, QUIZ, "11")
    until(venn, pairing, refused=2)
    relay = venn.relay(pairing)
    assert (relay["verdict"]["level"], relay["verdict"]["act"]) == ("trouble", "see_refused")
    assert {cell["reason"] for cell in venn.scores(pairing, state="refused")} == {
        f"The column of '{QUIZ}' is gone from the gradebook, so its scores have nowhere to go."
    }
