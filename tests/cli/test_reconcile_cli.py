"""Comparing and settling on the command line: layouts by looking, gradebooks written back, reports,
and what a settlement shows before it writes.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from openpyxl import load_workbook
from tests.cli.test_cli import HEADER, error, run
from tests.conftest import Sides
from tools.world.actors import CommandLine, hand_in, type_over
from tools.world.differences import until_scores
from tools.world.tables import write_two_files
from tools.world.world import World

from vennpair.client import VennPair
from vennpair.standins.tarnfield import section

LEARNERS = section(2)[:6]
ITEM = "Practice set 1A"


@pytest.fixture
def files(tmp_path: Path) -> tuple[str, str, str]:
    """Write a tidy table, a gradebook of another country's kind, and the layout that is suggested
    for it.
    """
    left, right, layout = (
        tmp_path / name for name in ("press.csv", "gradebook.csv", "tarnfield.toml")
    )
    for path, data in zip((left, right), write_two_files(), strict=True):
        path.write_bytes(data)
    found = run("reconcile", "--suggest-layout", str(right))
    assert found.status == 0, found.err
    layout.write_text(found.out)
    return str(left), str(right), str(layout)


def test_a_suggested_layout_reads_the_file_it_was_made_from(files: tuple[str, str, str]) -> None:
    left, right, layout = files
    ran = run(
        "reconcile",
        "--publisher",
        left,
        "--gradebook",
        right,
        "--layout",
        layout,
        "--format",
        "json",
        "--fail-on-differences",
    )
    assert ran.status == 1, ran.err
    document = json.loads(ran.out)
    summary = document["summary"]
    assert (summary["differ"], summary["unsent"], summary["gradebook_only"]) == (
        20,
        2,
        0,
    )  # one column of other points, two typed over
    assert (summary["publisher_only"], summary["shell_only"], summary["columns"]) == (1, 1, 6)
    assert {
        each["column"]: each["findings"] for each in document["columns"] if each["findings"]
    } == {"Unit 2 quiz": ["points_differ"]}
    stranger = next(each for each in document["learners"] if each["kind"] == "publisher_only")
    assert "same name" in stranger["candidates"][0]["why"]


def test_a_gradebook_is_written_back_with_only_what_was_asked_for(
    files: tuple[str, str, str], tmp_path: Path
) -> None:
    left, right, layout = files
    before, target = Path(right).read_bytes(), tmp_path / "new.csv"
    words = (
        "reconcile",
        "--publisher",
        left,
        "--gradebook",
        right,
        "--layout",
        layout,
        "--write",
        str(target),
    )
    said = run(*words, "--dry-run")
    assert "2 cells would be changed; nothing was written." in said.out
    assert not target.exists()
    assert run(*words).status == 0
    after = target.read_bytes()
    changed = [
        (one, other)
        for one, other in zip(before.splitlines(), after.splitlines(), strict=True)
        if one != other
    ]
    assert len(changed) == 2
    assert all(b"," in other and other.count(b";") == one.count(b";") for one, other in changed)
    again = json.loads(
        run(
            "reconcile",
            "--publisher",
            left,
            "--gradebook",
            str(target),
            "--layout",
            layout,
            "--format",
            "json",
        ).out
    )["summary"]
    assert (again["unsent"], again["differ"]) == (0, 20)
    assert run(*words, "--take", "unsent", "--take", "differ").status == 0
    assert (
        json.loads(
            run(
                "reconcile",
                "--publisher",
                left,
                "--gradebook",
                str(target),
                "--layout",
                layout,
                "--format",
                "json",
            ).out
        )["summary"]["differ"]
        == 0
    )


def test_reports_and_plots_come_in_the_form_that_their_name_says(
    files: tuple[str, str, str], tmp_path: Path
) -> None:
    left, right, layout = files
    words = ("reconcile", "--publisher", left, "--gradebook", right, "--layout", layout)
    for name in ("r.html", "r.xlsx", "r.csv", "r.json"):
        assert run(*words, "--report", str(tmp_path / name)).status == 0
    page = (tmp_path / "r.html").read_text()
    assert page.count("<svg") == 3  # the circles, the class, share against share
    assert "src=" not in page
    assert "href=" not in page  # it needs nothing else
    assert load_workbook(tmp_path / "r.xlsx").sheetnames == ["Summary", "Findings", "The class"]
    for name, start in (("p.png", b"\x89PNG"), ("p.svg", b"<?xml"), ("p.pdf", b"%PDF")):
        assert run(*words, "--plot", str(tmp_path / name)).status == 0
        assert (tmp_path / name).read_bytes().startswith(start)
    assert (
        error(run(*words, "--report", str(tmp_path / "r.doc"), "--format", "json"), 2)["code"]
        == "which_report"
    )
    assert (
        error(run(*words, "--plot", str(tmp_path / "p.doc"), "--format", "json"), 2)["code"]
        == "unwritable"
    )


@pytest.mark.parametrize("score", ["absent", "12,5", "NaN", "1e400", "inf", "1 000", "0x10", "５"])
def test_what_is_no_number_is_named_with_its_line_and_never_guessed(
    tmp_path: Path, score: str
) -> None:
    bad, good = tmp_path / "bad.csv", tmp_path / "good.csv"
    bad.write_text(f'{HEADER}1,,Ada,Quiz,8,10,\n2,,Ben,Quiz,"{score}",10,\n')
    good.write_text(HEADER)
    found = error(
        run("reconcile", "--publisher", str(bad), "--gradebook", str(good), "--format", "json"), 3
    )
    assert (found["code"], found["file"], found["line"]) == ("bad_score", "bad.csv", 3)


@pytest.fixture(scope="module")
def live(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> tuple[Sides, str]:
    sides, pairing = new_pairing("HYD 210-RCL")
    venn.wait(
        venn.deploy(pairing, [item["id"] for item in venn.items(pairing) if item["title"] == ITEM])[
            0
        ]["job"]
    )
    venn.change_pairing(pairing, relay_on=True)
    for learner in LEARNERS[:2]:
        hand_in(world, learner.email, sides.context_id, ITEM, 3)
    until_scores(venn, pairing, accepted=2)
    return sides, pairing


def found_cells(cli: CommandLine, label: str) -> dict[str, Any]:
    found = cli.json("reconcile", label)
    return {
        each["email"]: (each["kind"], each["gradebook"])
        for each in found["findings"]
        if each["scope"] == "cell"
    }


def test_a_settlement_is_shown_written_listed_and_taken_back(
    world: World, cli: CommandLine, live: tuple[Sides, str]
) -> None:
    sides, name = live[0], f"{LEARNERS[0].given} {LEARNERS[0].family}"
    type_over(world, sides.context_id, ITEM, "9.75", name)
    assert found_cells(cli, sides.label) == {LEARNERS[0].email: ("edited", "9.75")}
    words = ("settle", sides.label, "--kind", "edited=restore")
    shown = cli(*words, "--dry-run")
    assert "1 finding, 1 written to the gradebook:" in shown.out
    assert "Nothing was changed." in shown.out
    assert found_cells(cli, sides.label) == {LEARNERS[0].email: ("edited", "9.75")}
    assert cli.json(*words)["counts"] == {"done": 1}
    assert found_cells(cli, sides.label) == {}
    (made,) = cli.json("settlements", "list", sides.label)
    assert cli.json("settlements", "show", sides.label, made["id"][:8])["steps"][0][
        "words"
    ].endswith("9.75 becomes 6")
    assert cli("settlements", "undo", sides.label, "--dry-run").out.count("9.75") == 1
    assert cli.json("settlements", "undo", sides.label)["counts"] == {"done": 1}
    assert found_cells(cli, sides.label) == {LEARNERS[0].email: ("edited", "9.75")}


@pytest.mark.parametrize(
    ("words", "status", "code"),
    [
        (("settle", "HYD 210-RCL"), 2, "what_to_settle"),
        (("settle", "HYD 210-RCL", "--kind", "edited=burn"), 2, "usage"),
        (("settle", "HYD 210-RCL", "--finding", "x"), 2, "usage"),
        (("settle", "HYD 210-RCL", "--finding", "999999999=keep"), 6, "unknown_finding"),
        (("settle", "HYD 210-RCL", "--kind", "clash=send"), 6, "nothing_to_settle"),
        (("settle", "HYD 210-RCL", "--kind", "edited=match"), 6, "unknown_remedy"),
        (("settlements", "show", "HYD 210-RCL", "ffffffff"), 6, "unknown_settlement"),
        (("cell", "HYD 210-RCL", "--learner", "Nobody", "--item", ITEM), 6, "unknown_cell"),
        (("reconcile", "HYD 210-RCL", "--publisher", "x.csv"), 2, "what_to_compare"),
        (("reconcile", "HYD 210-RCL", "--gradebook", "/no/file"), 3, "unreadable"),
    ],
)
def test_what_cannot_be_settled_is_said_with_what_to_do(
    cli: CommandLine, live: tuple[Sides, str], words: tuple[str, ...], status: int, code: str
) -> None:
    found_cells(cli, live[0].label)
    ran = cli(*words, "--format", "json")
    assert (ran.status, json.loads(ran.err)["error"]["code"]) == (status, code), ran.err
