"""What commands make of what the service answers: proposals, troubles, several that fit, refusals
of one among many; and that nothing is changed where it is not clear what is meant.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import httpx
import pytest
from tests.cli.conftest import the_error
from tests.client.schema_service import ID, REFUSED, Service
from tools.world.actors import Ran

Run = Callable[..., Ran]
JSON = ("--format", "json")
# Two ids that begin alike, and one that does not.
IDS = ("ab1c0000-0000-4000-8000-000000000001", "ab2c0000-0000-4000-8000-000000000002", ID)


def with_(**fields: Any) -> Callable[[dict[str, Any]], dict[str, Any]]:
    """Return what gives an example these fields."""
    return lambda found: found | fields


def thrice(**fields: Any) -> Callable[[Any], Any]:
    """Return what makes of a list's one example three, with three ids."""

    def rows(found: Any) -> Any:
        one = found["results"][0] if isinstance(found, dict) else found[0]
        made = [one | fields | {"id": each} for each in IDS]
        return found | {"results": made} if isinstance(found, dict) else made

    return rows


def bodies(service: Service, operation: str) -> list[dict[str, Any]]:
    pairs = zip(service.asked, service.sent, strict=True)
    return [sent for asked, sent in pairs if asked == operation]


@pytest.mark.parametrize(
    ("name", "operation", "fields", "code"),
    [
        (
            "settlements undo",
            "pairings_settlements_list",
            {"state": "done", "undoes": None, "undone": False},
            "unknown_settlement",
        ),
        (
            "settlements carry-out",
            "pairings_settlements_list",
            {"state": "proposed"},
            "unknown_settlement",
        ),
        ("rollouts undo", "pairings_rollouts_list", {}, "rollout_unknown"),
        ("rollouts stop", "pairings_rollouts_list", {}, "rollout_unknown"),
        ("operations undo", "operations_list", {}, "operation_unknown"),
        ("operations stop", "operations_list", {}, "operation_unknown"),
    ],
)
def test_an_id_s_beginning_that_fits_several_changes_none_of_them(
    name: str, operation: str, fields: dict[str, Any], code: str, run: Run
) -> None:
    for beginning, words in (("AB", "2 "), ("ff", "No ")):
        service = Service(full=True, says={operation: thrice(**fields)})
        ran = run(name, service, *JSON, **{name.split()[0][:-1]: beginning})
        error = the_error(ran)
        assert (ran.status, error["code"]) == (6, code)
        assert error["message"].startswith(words)
        assert not service.wrote
    service = Service(full=True, says={operation: thrice(**fields)})
    assert run(name, service, **{name.split()[0][:-1]: "AB2"}).status in {0, 1, 130}
    assert service.wrote


def test_what_is_settled_is_shown_first_and_what_was_not_done_is_named(run: Run) -> None:
    step = {
        "kind": "unsent",
        "learner": "Hugo Wexcombe",
        "item": "Quiz 1",
        "message": "It is full.",
    }

    def steps(found: dict[str, Any]) -> dict[str, Any]:
        one = found["steps"][0] | step
        return found | {"steps": [one | {"state": state} for state in ("done", "failed", "left")]}

    service = Service(full=True, says={"pairings_settlements_retrieve": steps})
    ran = run("settle", service, "--safe")
    assert ran.status == 1
    _, _, not_done = ran.out.partition("not done")
    assert [line.split("\t")[0] for line in not_done.splitlines()[1:3]] == ["failed", "left"]
    assert not_done.count("Hugo Wexcombe\tQuiz 1\tIt is full.") == 2
    dry = [sent["dry_run"] for sent in bodies(service, "pairings_settlements_create")]
    assert dry == [True, False]
    ran = run("settle", service, "--safe", *JSON)
    assert [each["state"] for each in json.loads(ran.out)["steps"]] == ["done", "failed", "left"]


def test_a_proposal_says_who_carries_it_out_and_waits_for_nothing(run: Run) -> None:
    def proposed(found: dict[str, Any]) -> dict[str, Any]:
        made = found["settlement"]
        return found | {"settlement": made and made | {"state": "proposed", "job": None}}

    service = Service(full=True, says={"pairings_settlements_create": proposed})
    ran = run("settle", service, "--kind", "edited=restore", "--finding", "7=tie:s9")
    assert ran.status == 0
    assert "an instructor carries it out with: vennpair settlements carry-out" in ran.out
    assert "jobs_retrieve" not in service.asked
    sent = bodies(service, "pairings_settlements_create")[-1]
    assert sent["kinds"] == {"edited": "restore"}
    assert sent["findings"] == [{"finding": 7, "remedy": "tie", "candidate": "s9"}]


def test_a_dry_run_of_a_proposal_has_its_steps(run: Run) -> None:
    service = Service(full=True, first="proposed")
    ran = run("settlements carry-out", service, "--dry-run", *JSON)
    found = json.loads(ran.out)
    assert (found["dry_run"], found["settlement"]["state"]) == (True, "proposed")
    assert found["settlement"]["steps"]


@pytest.mark.parametrize(
    "words",
    [("--kind", "edited=burn"), ("--finding", "seven"), ()],
    ids=["remedy", "number", "none"],
)
def test_what_is_not_clear_is_not_settled(words: tuple[str, ...], run: Run) -> None:
    service = Service(full=True)
    ran = run("settle", service, *words, *JSON)
    assert ran.status == 2
    the_error(ran)
    assert not service.wrote


def test_a_learner_and_an_item_choose_only_what_is_theirs_and_can_be_settled(run: Run) -> None:
    def findings(found: dict[str, Any]) -> dict[str, Any]:
        one = found["results"][0] | {"learner": "Hugo Wexcombe", "item": "Quiz 1"}
        one["remedies"] = ["send"]
        others: list[dict[str, Any]] = [
            {"id": 1},
            {"id": 2, "item": "Quiz 2"},
            {"id": 3, "learner": "Isolde Wexcombe", "email": "i@x.example"},
            {"id": 4, "remedies": []},
        ]
        return found | {"results": [one | each for each in others]}

    service = Service(full=True, says={"pairings_comparisons_findings_list": findings})
    words = ("--learner", "HUGO wexcombe", "--item", "quiz 1", "--remedy", "send")
    assert run("settle", service, *words).status in {0, 1}
    sent = bodies(service, "pairings_settlements_create")
    assert [each["findings"] for each in sent] == [[{"finding": 1, "remedy": "send"}]] * 2
    none = Service(full=True, says={"pairings_comparisons_findings_list": findings})
    ran = run("settle", none, "--learner", "Nobody", *JSON)
    assert (ran.status, the_error(ran)["code"]) == (6, "nothing_to_settle")
    assert not none.wrote


@pytest.mark.parametrize(
    ("stages", "troubles", "status"),
    [
        (("live", "live"), 0, 0),
        (("live", "live"), 2, 1),
        (("live", "failed"), 0, 1),
        (("undone", "undone"), 0, 0),
        (("stopped", "live"), 0, 1),
    ],
)
def test_a_set_up_says_how_each_section_ended(
    stages: tuple[str, ...], troubles: int, status: int, run: Run
) -> None:
    def ended(found: dict[str, Any]) -> dict[str, Any]:
        one = found["sections"][0] | {"job": None, "message": "So it came.", "troubles": troubles}
        sections = [one | {"name": f"HYD 210-0{n}", "stage": s} for n, s in enumerate(stages)]
        return found | {"id": IDS[0], "sections": sections}

    says = {"set_ups_retrieve": ended, "set_ups_list": thrice(), "shells_list": paired}
    ran = run("set-up", Service(full=True, says=says), "--undo", "ab1c")
    assert ran.status == status, ran.out + ran.err
    for number, stage in enumerate(stages):
        assert f"HYD 210-0{number}\t{stage}\tSo it came." in ran.out
    assert ("sections are live" in ran.out) == (stages == ("live", "live"))
    assert ("2 troubles were met" in ran.out) == (troubles > 0 and stages.count("live") == 1)
    several = run("set-up", Service(full=True, says=says), "--undo", "ab", *JSON)
    assert (several.status, the_error(several)["code"]) == (2, "set_up_unknown")
    as_json = run("set-up", Service(full=True, says=says), "--undo", "ab1c", *JSON)
    assert [each["stage"] for each in json.loads(as_json.out)["sections"]] == list(stages)


def paired(found: dict[str, Any]) -> dict[str, Any]:
    """Three shells that are live, each with a pairing of its own."""
    one = found["results"][0]
    rows = [
        one | {"id": each, "label": f"HYD 210-0{n}", "title": "", "pairing": each, "state": "live"}
        for n, each in enumerate(IDS)
    ]
    return found | {"results": rows, "next": None}


def test_what_one_shell_refuses_keeps_no_other_back(run: Run) -> None:
    asked: list[str] = []
    service = Service(full=True, says={"shells_list": paired})

    def answer(request: httpx.Request) -> httpx.Response:
        given = service(request)
        if request.method == "POST" and IDS[1] in request.url.path:
            return httpx.Response(409, json=REFUSED)
        if request.method == "POST":
            asked.append(request.url.path)
        return given

    first = {"shell": "HYD 210-00"}
    also = [word for label in ("HYD 210-01", IDS[2], "HYD 210-00") for word in ("--also", label)]
    ran = run("reconcile", answer, *also, *JSON, **first)
    rows = json.loads(ran.out)["shells"]
    assert [(row["shell"], row["exit"]) for row in rows] == [
        ("HYD 210-00", 0),
        ("HYD 210-01", 6),
        ("HYD 210-02", 0),
    ]
    assert ran.status == 6
    assert rows[1]["error"] == {"code": REFUSED["code"], "message": REFUSED["detail"]}
    assert len(asked) == 2
    said = run("reconcile", answer, *also, **first)
    assert said.status == 6
    assert "1 shell of 3 could not be done." in said.out
    assert REFUSED["detail"] in said.err


def test_links_are_opened_only_once_it_was_said_which(run: Run) -> None:
    def links(found: dict[str, Any]) -> dict[str, Any]:
        one = found["results"][0]
        rows = [
            one | {"id": each, "title": f"Quiz {n}", "state": state}
            for n, (each, state) in enumerate(zip(IDS, ("placed", "placed", "gone"), strict=True))
        ]
        return found | {"results": rows, "next": None}

    service = Service(full=True, says={"pairings_placements_list": links})
    ran = run("learner-view", service, "--dry-run", *JSON)
    assert [each["title"] for each in json.loads(ran.out)["links"]] == ["Quiz 0", "Quiz 1"]
    assert not service.wrote
    said = run("learner-view", service, "Quiz 1", "--dry-run")
    assert "Quiz 1\t" in said.out
    assert "Quiz 0" not in said.out
    assert "Nothing was opened." in said.out
    assert run("learner-view", service, "Quiz 1").status in {0, 1}
    assert bodies(service, "pairings_learner_checks_create") == [{"placements": [IDS[1]]}]
