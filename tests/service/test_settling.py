"""Every row of the three-way table and every finding of a column, planted, found with its cause,
settled, undone to the last digit.
"""

from __future__ import annotations

import json
import signal
from collections.abc import Callable
from typing import Any

import httpx
import pytest
from tools.world import at_campus, at_service
from tools.world.actors import CommandLine, hand_in
from tools.world.differences import (
    CELLS,
    COLUMNS,
    FRESH,
    HELD,
    LEARNERS,
    MISSING,
    PEOPLE,
    POINTLESS,
    STRANGER,
    WORKED,
    Ground,
    address,
    choose_everything,
    plant_differences,
    type_scores,
)
from tools.world.hold import hold
from tools.world.world import INSTRUCTOR, PASSWORD, World

from tests.conftest import Sides
from vennpair.client import NotAllowed, Refusal, VennPair


@pytest.fixture(scope="module")
def planted(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> Ground:
    sides, pairing = new_pairing("HYD 210-SETTLE")
    ground = Ground(sides.label, sides.context_id, sides.course, pairing)
    plant_differences(world, venn, ground)
    return ground


def compared(venn: VennPair, pairing: str) -> dict[str, Any]:
    comparison = venn.compare(pairing)
    venn.wait(comparison["job"])
    return dict(venn.comparison(pairing, comparison["id"]))


def cells_of(
    venn: VennPair, pairing: str, comparison: str
) -> dict[tuple[str, str], dict[str, Any]]:
    return {
        (each["email"], each["item"]): dict(each)
        for each in venn.findings(pairing, comparison, scope="cell")
    }


def shown(world: World, ground: Ground) -> dict[str, Any]:
    """Return the gradebook's scores, and its columns by title."""
    return {
        "cells": at_campus.scores(world, ground.context_id),
        "columns": sorted(
            (each["title"], each["points"], each["end"], each["category"])
            for each in at_campus.columns(world, ground.context_id)
        ),
    }


def who(number: int, title: str) -> tuple[str, str]:
    return address(number), title


def kinds_of(found: dict[tuple[str, str], dict[str, Any]]) -> dict[tuple[str, str], str]:
    return {key: each["kind"] for key, each in found.items()}


def test_every_row_of_the_table_is_found_settled_and_undone(
    world: World, venn: VennPair, planted: Ground
) -> None:
    pairing, before = planted.pairing, shown(world, planted)
    first = compared(venn, pairing)
    found = cells_of(venn, pairing, first["id"])
    assert kinds_of(found) == {who(*key): kind for key, kind in CELLS.items()}
    assert "never reported" in found[who(3, WORKED)]["cause"]
    assert "The column is locked." in found[who(4, FRESH)]["cause"]
    assert {
        (each["kind"], each["item"]) for each in venn.findings(pairing, first["id"], scope="column")
    } == COLUMNS
    people = {
        (each["kind"], each["learner"]): each["cause"]
        for each in venn.findings(pairing, first["id"], scope="learner")
    }
    assert people.keys() == PEOPLE
    assert "never came through a link" in people["publisher_only", STRANGER]
    with pytest.raises(Refusal, match="a person must choose"):
        venn.settle(pairing, first["id"], kinds={"clash": ""}, dry_run=True)
    chosen = {
        each["finding"]: each for each in choose_everything(venn.findings(pairing, first["id"]))
    }
    safe = {
        each["id"] for each in found.values() if each["kind"] in {"unsent", "behind", "refused"}
    }
    columns = {each["id"]: each for each in venn.findings(pairing, first["id"], scope="column")}
    made = [
        settle(venn, pairing, first["id"], safe=True),
        settle(
            venn, pairing, first["id"], findings=[chosen[key] for key in columns if key in chosen]
        ),
    ]
    made.append(
        settle(
            venn,
            pairing,
            first["id"],
            findings=[
                each for key, each in chosen.items() if key not in safe and key not in columns
            ],
        )
    )
    assert [set(each["counts"]) for each in made] == [{"done"}] * 3, made
    assert sum(sum(each["counts"].values()) for each in made) == len(chosen)
    clean = compared(venn, pairing)
    assert clean["summary"]["open"] == {"held": 1}, list(venn.findings(pairing, clean["id"]))
    for each in reversed(made):
        begun = venn.undo_operation(each["job"]["id"])
        venn.wait(venn.job(begun["id"]))
        assert set(venn.settlement(pairing, begun["subject"])["counts"]) == {"done"}
    after = shown(world, planted)
    assert after["cells"] == before["cells"]
    assert [each for each in after["columns"] if each[0] != MISSING] == [
        each if each[0] != POINTLESS else (POINTLESS, "10", *each[2:]) for each in before["columns"]
    ]
    again = compared(venn, pairing)
    # A refusal is history once the score went: what was refused is simply not there any more.
    assert kinds_of(cells_of(venn, pairing, again["id"])) == {
        who(*key): "unsent" if kind == "refused" else kind for key, kind in CELLS.items()
    }


def settle(venn: VennPair, pairing: str, comparison: str, **wanted: Any) -> dict[str, Any]:
    preview = venn.settle(pairing, comparison, dry_run=True, **wanted)
    begun = venn.settle(pairing, comparison, **wanted)["settlement"]
    assert begun is not None
    venn.wait(begun["job"])
    done = venn.settlement(pairing, begun["id"])

    def written(steps: list[Any]) -> list[tuple[str, str, str]]:
        return [
            (step["item"], step["learner"], step["after"])
            for step in steps
            if step["writes"] and step["kind"] != "due_differs"
        ]

    if set(done["counts"]) == {"done"}:
        assert written(done["steps"]) == written(preview["steps"])
    return dict(done)


def test_what_moved_since_the_comparison_is_left_alone_and_a_kept_one_comes_back_when_it_moves(
    world: World, venn: VennPair, cli: CommandLine, planted: Ground
) -> None:
    pairing, comparison = planted.pairing, compared(venn, planted.pairing)
    found = cells_of(venn, pairing, comparison["id"])
    type_scores(world, planted, [(3, WORKED, "4.5")])
    done = settle(
        venn, pairing, comparison["id"], findings=[{"finding": found[who(3, WORKED)]["id"]}]
    )
    assert done["counts"] == {"left": 1}
    assert "become 4.5" in done["steps"][0]["message"]
    kept = cli.json("settle", planted.label, "--learner", address(1), "--item", WORKED)
    assert [step["remedy"] for step in kept["steps"]] == ["keep"]
    quiet = compared(venn, pairing)
    assert [
        each["kept"] is not None
        for each in venn.findings(pairing, quiet["id"], item=WORKED, scope="cell")
        if each["email"] == address(1)
    ] == [True]
    type_scores(world, planted, [(1, WORKED, "9.75")])
    loud = compared(venn, pairing)
    (moved,) = [
        each
        for each in venn.findings(pairing, loud["id"], scope="cell", item=WORKED)
        if each["email"] == address(1)
    ]
    assert (moved["kept"], moved["new"]) == (None, True)
    told = cli(
        "cell",
        planted.label,
        "--learner",
        address(1),
        "--item",
        WORKED,
        "--note",
        "She showed me the paper.",
    )
    assert told.status == 0, told.err
    assert "She showed me the paper." in told.out
    assert "leave the gradebook as it is" in told.out
    (note,) = [
        each for each in venn.notes(planted.pairing) if each["text"] == "She showed me the paper."
    ]
    venn.take_note_away(planted.pairing, note["id"])
    assert note["id"] not in [each["id"] for each in venn.notes(planted.pairing)]
    with pytest.raises(Refusal) as gone:
        venn.take_note_away(planted.pairing, note["id"])
    assert gone.value.code == "not_found"


def test_a_column_made_again_by_hand_is_claimed_and_given_back(
    world: World, venn: VennPair, planted: Ground
) -> None:
    pairing = planted.pairing
    placement = next(each for each in venn.placements(pairing) if each["title"] == HELD)
    at_campus.delete_column(world, planted.context_id, HELD)
    at_campus.add_column(
        world, planted.context_id, f"{HELD} (copy)", "10", resource_id=placement["id"]
    )
    comparison = compared(venn, pairing)
    (missing,) = venn.findings(pairing, comparison["id"], kind="column_missing", item=HELD)
    assert (missing["default"], missing["candidates"][0]["name"]) == ("claim", f"{HELD} (copy)")
    done = settle(venn, pairing, comparison["id"], findings=[{"finding": missing["id"]}])
    assert done["counts"] == {"done": 1}
    after = compared(venn, pairing)
    assert {
        each["kind"] for each in venn.findings(pairing, after["id"], scope="column", item=HELD)
    } >= {"title_differs"}
    assert not list(venn.findings(pairing, after["id"], kind="column_missing", item=HELD))
    venn.wait(venn.job(venn.undo_operation(done["job"]["id"])["id"]))
    again = compared(venn, pairing)
    assert len(list(venn.findings(pairing, again["id"], kind="column_missing", item=HELD))) == 1


@pytest.mark.parametrize(
    "path", ["pairings/{}/comparisons", "pairings/{}/settlements", "agreement"]
)
def test_lists_are_paged_one_by_one_without_losing_any(
    world: World, venn: VennPair, planted: Ground, path: str
) -> None:
    address, headers, seen = (
        f"{world.url('vennpair')}/api/v1/{path.format(planted.pairing)}",
        {"Authorization": venn._http.headers["Authorization"]},
        [],
    )
    whole = [
        each.get("id") or each["pairing"]
        for each in httpx.get(address, params={"limit": 500}, headers=headers).json()["results"]
    ]
    assert whole
    following = f"{address}?limit=1"
    while following:
        answer = httpx.get(following, headers=headers)
        assert answer.status_code == 200, answer.text
        seen += [each.get("id") or each["pairing"] for each in answer.json()["results"]]
        following = answer.json()["next"]
    assert seen == whole


def test_an_assistant_proposes_and_an_instructor_carries_it_out(
    world: World, venn: VennPair, cli: CommandLine, planted: Ground
) -> None:
    pairing = planted.pairing
    comparison = compared(venn, pairing)
    at_service.give_role(world, planted.label, INSTRUCTOR, "assistant")
    try:
        made = venn.settle(pairing, comparison["id"], kinds={"differ": "send"})["settlement"]
        assert made is not None
        assert (made["state"], made["job"]) == ("proposed", None)
        with pytest.raises(NotAllowed):
            venn.carry_out(pairing, made["id"])
        other = venn.settle(pairing, comparison["id"], kinds={"gradebook_only": "keep"})[
            "settlement"
        ]
    finally:
        at_service.give_role(world, planted.label, INSTRUCTOR, "instructor")
    assert other is not None
    assert venn.dismiss(pairing, other["id"])["state"] == "dismissed"
    done = cli.json("settlements", "carry-out", planted.label)
    assert (done["id"], done["counts"]) == (made["id"], {"done": 1})
    with pytest.raises(Refusal, match="proposal is closed"):
        venn.dismiss(pairing, made["id"])


def test_reports_say_the_same_as_the_comparison(
    world: World, venn: VennPair, cli: CommandLine, planted: Ground, tmp_path: Any
) -> None:
    for name in ("r.html", "r.xlsx", "r.csv", "r.json"):
        ran = cli(
            "reconcile",
            planted.label,
            "--report",
            str(tmp_path / name),
            *(["--plot", str(tmp_path / "p.png")] if name == "r.json" else []),
        )
        assert ran.status == 1, ran.err  # findings of level error are open
    document = json.loads((tmp_path / "r.json").read_text())
    assert (
        f"{document['counts']['cells'] - document['counts']['agree']} of"
        f" {document['counts']['cells']} scores do not agree" in (tmp_path / "r.html").read_text()
    )
    assert (tmp_path / "p.png").read_bytes().startswith(b"\x89PNG")
    assert len((tmp_path / "r.csv").read_text().splitlines()) == len(document["findings"]) + 1
    newest = next(venn.comparisons(planted.pairing))["id"]
    address = (
        f"{world.url('vennpair')}/api/v1/pairings/{planted.pairing}/comparisons/{newest}/report"
    )
    with VennPair(world.url("vennpair")) as client:
        token = client.sign_in(INSTRUCTOR, PASSWORD)["token"]
    for form, kind in (
        ("html", "text/html"),
        ("csv", "text/csv"),
        ("json", "application/json"),
        ("xlsx", "spreadsheetml"),
    ):  # as the console's links ask for them
        answer = httpx.get(
            address, params={"as": form}, headers={"Authorization": f"Bearer {token}"}, timeout=30
        )
        assert (
            answer.status_code,
            kind in answer.headers["Content-Type"],
            len(answer.content) > 500,
        ) == (200, True, True)
    stranger = httpx.get(
        f"{world.url('vennpair')}/api/v1/pairings/{planted.pairing}/comparisons/00000000-0000-0000-0000-000000000000/report?as=html"
    )
    assert stranger.status_code in {401, 403}


def test_a_settlement_whose_worker_is_killed_writes_every_cell_once(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-KILLED")
    titles = (WORKED, FRESH, HELD)
    venn.wait(
        venn.deploy(
            pairing, [item["id"] for item in venn.items(pairing) if item["title"] in titles]
        )[0]["job"]
    )
    for who_, learner in enumerate(LEARNERS):
        browser = None
        for turn, title in enumerate(titles):
            browser = hand_in(
                world, learner.email, sides.context_id, title, 1 + (who_ + turn) % 4, browser
            )
    comparison = compared(venn, pairing)
    assert comparison["summary"]["open"] == {"unsent": 18}
    world.end("worker")
    made = venn.settle(pairing, comparison["id"], safe=True)["settlement"]
    assert made is not None
    for after, moment in ((1, "drop"), (2, "drop"), (3, "drop"), (4, "after")):
        with hold(world, "campus", "POST", "/scores$", after=after, hold=moment) as held:
            world.start_worker()
            held.wait()
            world.end("worker", signal.SIGKILL)
    world.start_worker()
    venn.wait(made["job"], seconds=180)
    assert venn.settlement(pairing, made["id"])["counts"] == {"done": 18}
    assert at_service.passages(world, pairing, "settled") == 18
    assert compared(venn, pairing)["summary"]["kinds"] == {"agree": 18}
