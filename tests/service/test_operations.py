"""Operations: whatever is written outside is listed, stopped, retried and undone in one way."""

from __future__ import annotations

import signal
import uuid
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor

import pytest
from tools.world import at_campus, at_press, at_service
from tools.world.actors import CommandLine
from tools.world.hold import hold, until, until_job
from tools.world.world import World

from tests.conftest import Sides
from vennpair.client import Refusal, VennPair
from vennpair.client.schema import Operation
from vennpair.standins.tarnfield import section

NewPairing = Callable[[str], tuple[Sides, str]]
LEARNERS = section(2)[:6]
SET, QUIZ = "Practice set 1A", "Unit 1 quiz"


@pytest.fixture(scope="module")
def live(world: World, venn: VennPair, new_pairing: NewPairing) -> tuple[Sides, str]:
    """A live pairing with one item, of which the publisher has scores that it never reported."""
    sides, pairing = new_pairing("HYD 210-OPS")
    item = next(each["id"] for each in venn.items(pairing) if each["title"] == SET)
    venn.wait(venn.deploy(pairing, [item], folder="Homework")[0]["job"])
    for number, learner in enumerate(LEARNERS):
        at_press.answer(world, sides.course, learner.email, SET, str(number), lost=True)
    return sides, pairing


def newest(venn: VennPair, pairing: str, kind: str) -> Operation:
    return next(venn.operations(pairing, kind=kind))


def settle(venn: VennPair, pairing: str) -> str:
    """Compare and begin to settle what is safe; return the operation."""
    comparison = venn.compare(pairing)
    venn.wait(comparison["job"])
    made = venn.settle(pairing, comparison["id"], safe=True)["settlement"]
    assert made is not None
    assert made["job"] is not None
    return made["job"]["id"]


def test_a_settlement_is_stopped_and_goes_on_where_it_was(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    with hold(world, "campus", "POST", "/scores") as held:
        operation = settle(venn, pairing)
        held.wait(1)
        assert venn.operation(operation)["may"] == ["stop"]
        venn.stop_operation(operation)
        assert [each["id"] for each in venn.operations(pairing, "going")] == [operation]
    until_job(venn, operation, "cancelled")
    shown = venn.operation(operation)
    assert (shown["state"], shown["says"]) == ("stopped", "Settling findings")
    written = at_campus.scores(world, sides.context_id)
    counts = shown["counts"]
    assert counts.get("done", 0) + counts.get("stopped", 0) == len(LEARNERS)
    assert len(written) == counts.get("done", 0)
    with pytest.raises(Refusal, match="ended already"):
        venn.stop_operation(operation)
    if counts.get("stopped"):  # else every call was in flight when it was asked to stop
        assert "retry" in shown["may"]
        venn.retry_operation(operation)
        until_job(venn, operation, "done")
    assert len(at_campus.scores(world, sides.context_id)) == len(LEARNERS)
    assert {each["state"] for each in venn.operation_steps(operation)} == {"done"}


def test_undoing_says_first_what_it_does_and_puts_back_what_stood_there(
    world: World, venn: VennPair, cli: CommandLine, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    settled = newest(venn, pairing, "settle")
    planned = cli.json("operations", "undo", settled["id"][:8], "--dry-run")
    assert planned["rows"][0]["does"].endswith("becomes empty again")
    assert len(at_campus.scores(world, sides.context_id)) == len(LEARNERS)
    undone = cli.json("operations", "undo", settled["id"][:8])
    assert (undone["undoes"], undone["state"]) == (settled["id"], "done")
    assert at_campus.scores(world, sides.context_id) == {}
    assert venn.operation(settled["id"])["undone"]
    with pytest.raises(Refusal, match="Nothing of this settlement"):
        venn.undo_operation(settled["id"])


def test_a_rollout_is_undone_by_the_same_words_and_listed_beside_the_rest(
    world: World, venn: VennPair, cli: CommandLine, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    quiz = next(each["id"] for each in venn.items(pairing) if each["title"] == QUIZ)
    venn.wait(venn.deploy(pairing, [quiz], folder="Quizzes")[0]["job"])
    rollout = newest(venn, pairing, "rollout")
    steps = [(each["does"], each["title"]) for each in venn.operation_steps(rollout["id"])]
    assert steps == [
        ("make the folder", "Quizzes"),
        ("place the link", QUIZ),
        ("make the column", QUIZ),
    ]
    shown = cli("operations", "list", "HYD 210-OPS").out
    assert "Placing items" in shown
    assert "Taking a settlement back" in shown
    assert cli.json("operations", "show", rollout["id"])["counts"] == {"done": 3}
    assert cli.json("operations", "undo", rollout["id"])["says"] == "Undoing a rollout"
    assert [each["title"] for each in at_campus.columns(world, sides.context_id)] == [SET]
    assert cli("operations", "undo", "no-such-id").status == 6


def test_the_undo_of_an_import_is_not_lost_by_bringing_in_more(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    sides, pairing = new_pairing("HYD 210-MORE")
    made = next(venn.imports(pairing))["id"]
    entries = [each for each in venn.entries(pairing, made) if each["kind"] == "web_link"]
    one, two = entries[0], entries[1]
    for chosen in ([one["id"]], [one["id"], two["id"]]):
        venn.wait(venn.deliver(pairing, made, entries=chosen)["job"])
    second, first = list(venn.operations(pairing, kind="delivery"))
    assert second["message"] == "2 made, 2 there already"  # each in its folder

    def links() -> list[str]:
        rows = at_campus.outline(world, sides.context_id)
        return [row["title"] for row in rows if row["kind"] == "web_link"]

    assert links() == [one["title"], two["title"]]
    venn.wait(venn.job(venn.undo_operation(second["id"])["id"]))
    assert links() == [one["title"]]
    venn.wait(venn.job(venn.undo_operation(first["id"])["id"]))
    assert links() == []
    assert venn.operation(first["id"])["undone"]


def test_what_an_import_could_not_bring_in_is_tried_again(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    sides, pairing = new_pairing("HYD 210-TRY")
    made = next(venn.imports(pairing))["id"]
    one, *_ = [each for each in venn.entries(pairing, made) if each["kind"] == "web_link"]
    with hold(world, "campus", "POST", "/entries", status=400):
        venn.wait(venn.deliver(pairing, made, entries=[one["id"]])["job"])
    (failed,) = venn.operations(pairing, kind="delivery")
    assert (failed["counts"]["failed"], failed["may"]) == (1, ["retry", "undo"])
    again = venn.retry_operation(failed["id"])
    until_job(venn, again["id"], "done")
    assert venn.operation(again["id"])["counts"] == {"done": 2}  # and its folder
    rows = at_campus.outline(world, sides.context_id)
    assert [row["title"] for row in rows if row["kind"] == "web_link"] == [one["title"]]


def test_of_two_that_are_asked_for_in_one_moment_one_is_begun(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    _, pairing = new_pairing("HYD 210-ONE")
    items = [each["id"] for each in venn.items(pairing, kind="graded")][:8]

    def ask(item: str) -> str:
        try:
            return venn.deploy(pairing, [item], folder="Homework")[0]["job"]["id"]
        except Refusal as refusal:
            return refusal.code

    with (
        hold(world, "campus", "POST", "/folders") as held,
        ThreadPoolExecutor(len(items)) as threads,
    ):
        answers = list(threads.map(ask, items))
        held.wait(1)
    refused = {"rollout_running", "outside_crowded"}  # or more at once than one college may have
    begun = [each for each in answers if each not in refused]
    assert len(begun) == 1, answers
    until_job(venn, begun[0], "done")
    until(lambda: not list(venn.operations(pairing, "going")), lambda: answers)


def test_a_job_that_ends_its_worker_again_and_again_is_set_aside(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    _, pairing = new_pairing("HYD 210-ENDS")
    world.end("worker", signal.SIGKILL)
    try:
        job = venn.compare(pairing)["job"]
        at_service.note_starts(world, job["id"], 5)
    finally:
        world.start_worker()
    with pytest.raises(Refusal, match="begun 5 times"):
        venn.wait(job)
    assert "was set aside" in next(venn.notices())["sentence"]
    venn.wait(venn.compare(pairing)["job"])


def test_a_lost_answer_is_not_asked_for_by_doing_it_again(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    _, pairing = new_pairing("HYD 210-LOST")
    path, headers = f"/pairings/{pairing}/comparisons", {"Idempotency-Key": uuid.uuid4().hex}
    begun = venn._http.request("POST", path, json={}, headers=headers)
    assert begun.status_code == 202
    assert at_service.forget_answer(world, headers["Idempotency-Key"]) == (True, 1)
    again = venn._http.request("POST", path, json={}, headers=headers)
    assert (again.status_code, again.json()["code"]) == (409, "done_already")
    undone = {"Idempotency-Key": uuid.uuid4().hex}
    at_service.claim_answer(world, undone["Idempotency-Key"], headers["Idempotency-Key"])
    assert venn._http.request("POST", path, json={}, headers=undone).status_code == 202


def test_twenty_who_import_one_file_at_once_read_it_once(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    sides, pairing = new_pairing("HYD 210-TWENTY")
    folder = world.home / "twenty"
    world.manage("press", "write_cartridges", sides.course, str(folder))
    file = next(iter(sorted(folder.glob("*.imscc"))))
    package = venn.send_package(pairing, file)["id"]
    world.end("worker", signal.SIGKILL)  # the first is not read before the last is asked for
    try:
        with ThreadPoolExecutor(20) as threads:
            made = list(threads.map(lambda _: venn.start_import(pairing, package), range(20)))
    finally:
        world.start_worker()
    assert len({each["job"]["id"] for each in made}) == 1
    venn.wait(made[0]["job"])


def test_a_lock_is_not_believed_once_its_session_is_gone(world: World) -> None:
    assert at_service.lose_a_lock(world) == (True, True)
