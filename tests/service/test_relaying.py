"""What an instructor chose, said and changed: held and released scores, learners who left, reports
by pull and file, totals that keep up.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from tools.world import at_campus, at_press, at_service
from tools.world.actors import CommandLine, hand_in
from tools.world.differences import until_scores
from tools.world.hold import hold, until
from tools.world.world import World

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


def answer(world: World, sides: Sides, who: int, title: str, score: str, **how: bool) -> None:
    at_press.answer(world, sides.course, LEARNERS[who].email, title, score, **how)


def rule_item(venn: VennPair, pairing: str, title: str) -> dict[str, Any]:
    return next(each for each in venn.relay_rules(pairing)["items"] if each["title"] == title)


def shown(world: World, sides: Sides, title: str) -> dict[str, float]:
    """Return what the campus's gradebook holds in a column, by address."""
    cells = at_campus.scores(world, sides.context_id, title)
    return {email: float(score) for (email, _), score in cells.items()}


def until_shown(world: World, sides: Sides, title: str, email: str, score: float) -> None:
    """Wait until the campus shows a score."""
    until(
        lambda: shown(world, sides, title).get(email) == score,
        lambda: f"{score} of {email} in {shown(world, sides, title)}",
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
    until_scores(venn, pairing, held=2)
    relay = venn.relay(pairing)
    assert (relay["held"], relay["verdict"]["act"]) == ({"hand": 2}, "release")
    assert shown(world, sides, FIRST) == {}
    assert cli.json("relay", "show", sides.label, "--hide", "--item", FIRST)[0]["result"] == "done"
    assert cli.json("relay", "release", sides.label, "--dry-run")["released"] == 2
    assert cli.json("relay", "release", sides.label)["released"] == 2
    until_scores(venn, pairing, accepted=2, held=0)
    answer(world, sides, 0, FIRST, "8")
    until_scores(venn, pairing, accepted=2)
    assert shown(world, sides, FIRST)[LEARNERS[0].email] == 8
    story = cli.json("relay", "story", sides.label, "--learner", LEARNERS[0].email, "--item", FIRST)
    assert [each["given"] for each in story["ledger"]] == ["6", "8"]
    assert [
        each["what"] for each in story["passages"] if each["what"] in {"released", "accepted"}
    ] == ["released", "accepted", "accepted"]


def test_sending_again_reads_the_publisher_first(
    world: World, venn: VennPair, cli: CommandLine, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    who = LEARNERS[5].email
    hand_in(world, who, sides.context_id, FIRST, 2)
    until_shown(world, sides, FIRST, who, 4)
    assert venn.send_again(pairing, dry_run=True)["newer"] == 0, "a report is not taken twice"
    answer(world, sides, 5, FIRST, "9", lost=True)
    looked = cli("relay", "send", sides.label, "--dry-run")
    assert (
        "1 newer score of the publisher's, which it had not reported, would be taken." in looked.out
    )
    assert shown(world, sides, FIRST)[who] == 4
    sent = cli("relay", "send", sides.label)
    assert "1 newer score of the publisher's, which it had not reported, was taken." in sent.out
    until_shown(world, sides, FIRST, who, 9)
    with hold(world, "press", "GET", "/results", status=503, times=9):
        deaf = cli("relay", "send", sides.label, "--dry-run")
    assert deaf.status == 1
    assert "The publisher could not be asked" in deaf.out


def test_after_the_due_at_all_go_at_once(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    venn.change_rule(pairing, "category", "Quizzes", {"when": "due"})
    for who in (0, 1, 2):
        hand_in(world, LEARNERS[who].email, sides.context_id, QUIZ, 4)
    until_scores(venn, pairing, held=3)
    cell = next(venn.scores(pairing, state="held"))
    assert (cell["why"], cell["until"]) == (
        "due",
        "2027-01-23T05:59:00Z",
    )  # 23:59 of the day before, in the course's zone
    assert "Jan 22, 2027 at 11:59 PM" in cell["reason"]
    assert venn.release(pairing, dry_run=True) == 0  # it waits for a time, not for a person
    assert at_service.let_due_ats_pass(world, pairing, QUIZ) > 0
    until_scores(venn, pairing, held=0, waiting=0, sending=0)
    assert len(shown(world, sides, QUIZ)) == 3


def test_held_scores_follow_a_due_date_that_moves_and_never_go_before_it(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-DUE")
    item = next(each for each in venn.items(pairing) if each["title"] == FIRST)
    venn.wait(venn.deploy(pairing, [item["id"]])[0]["job"])
    venn.change_rule(pairing, "all", "", {"when": "due"})
    venn.change_pairing(pairing, relay_on=True)
    who = LEARNERS[0].email
    hand_in(world, who, sides.context_id, FIRST, 3)
    until_scores(venn, pairing, held=1)
    (cell,) = venn.scores(pairing)
    assert [each["id"] for each in venn.scores(pairing, learner=who)] == [cell["id"]]

    def until_held_until(day: str) -> None:
        until(
            lambda: day in next(iter(venn.scores(pairing)))["reason"],
            lambda: f"{day} in {next(iter(venn.scores(pairing)))}",
        )

    until_held_until("Jan 19, 2027")
    at_press.delay_item(world, sides.course, FIRST, 7)
    at_service.let_due_ats_pass(world, pairing, FIRST)  # here it has come, there it has moved
    until_held_until("Jan 26, 2027")
    assert shown(world, sides, FIRST) == {}
    at_press.delay_item(world, sides.course, FIRST, -600)
    venn.wait(venn.look_for_drift(pairing))
    venn.mend(pairing, venn.watch(pairing)["drifts"], "follow")
    until_shown(world, sides, FIRST, who, 6)
    assert cell["state"] == "held"


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
    until_scores(venn, pairing, waiting=0, sending=0)
    answer(world, sides, 0, FIRST, "2")
    answer(world, sides, 1, FIRST, "9.5")
    until_shown(world, sides, FIRST, LEARNERS[1].email, 10)  # half a point goes up
    assert shown(world, sides, FIRST)[LEARNERS[0].email] == 8
    comparison = venn.compare(pairing)
    venn.wait(comparison["job"])
    assert not [
        each
        for each in venn.findings(pairing, comparison["id"], scope="cell")
        if each["item"] == FIRST
    ]
    answer(world, sides, 1, FIRST, "9.5", delete=True)
    # The attempt before the deleted one counts again.
    until_shown(world, sides, FIRST, LEARNERS[1].email, 6)


def enrol(world: World, sides: Sides, who: int, active: bool) -> None:
    at_campus.change_enrolment(world, sides.context_id, LEARNERS[who].email, active=active)
    at_service.read_roster(world, sides.context_id)


def test_a_dropped_learner_s_scores_are_kept_and_go_when_they_come_back(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    enrol(world, sides, 2, active=False)
    answer(world, sides, 2, QUIZ, "19")
    until_scores(venn, pairing, held=1)
    cell = next(venn.scores(pairing, state="held"))
    assert (cell["why"], cell["learner"]) == (
        "dropped",
        f"{LEARNERS[2].given} {LEARNERS[2].family}",
    )
    assert shown(world, sides, QUIZ)[LEARNERS[2].email] == 10
    enrol(world, sides, 2, active=True)
    until_scores(venn, pairing, held=0, waiting=0, sending=0)
    assert shown(world, sides, QUIZ)[LEARNERS[2].email] == 19


def test_results_are_pulled_from_where_the_last_reading_ended_and_strangers_wait(
    world: World, venn: VennPair, cli: CommandLine, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    first = cli.json("relay", "pull", sides.label)
    assert first["state"] == "done"
    received = venn.relay(pairing)["received"]
    answer(world, sides, 0, QUIZ, "15", lost=True)
    assert "1 new" in cli.json("relay", "pull", sides.label)["message"]
    assert venn.relay(pairing)["received"] == received + 1
    until_scores(venn, pairing, waiting=0, sending=0, held=0)
    assert shown(world, sides, QUIZ)[LEARNERS[0].email] == 15
    email = f"ula.{sides.course}@elsewhere.example"
    account = at_press.enrol(world, sides.course, email, "Ula", "Wade")
    at_press.answer(world, sides.course, email, QUIZ, "13", lost=True)
    cli.json("relay", "pull", sides.label)
    assert [(each["name"], each["given"]) for each in venn.strays(pairing)] == [
        ("Ula Wade", "13 of 20")
    ]
    assert venn.relay(pairing)["verdict"]["act"] == "match"
    learner = at_service.learner_id(world, sides.context_id, LEARNERS[5].email)
    venn.confirm_match(pairing, account, learner)
    until_scores(venn, pairing, waiting=0, sending=0)
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
    until_scores(venn, pairing, waiting=0, sending=0)
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
    typed = [(LEARNERS[2].email, "Term total", "99")]
    at_campus.type_scores(world, sides.context_id, typed)
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
    at_campus.delete_column(world, sides.context_id, QUIZ)
    for who in (0, 1):
        answer(world, sides, who, QUIZ, "11")
    until_scores(venn, pairing, refused=2)
    relay = venn.relay(pairing)
    assert (relay["verdict"]["level"], relay["verdict"]["act"]) == ("trouble", "see_refused")
    assert {cell["reason"] for cell in venn.scores(pairing, state="refused")} == {
        f"The column of '{QUIZ}' is gone from the gradebook, so its scores have nowhere to go."
    }
