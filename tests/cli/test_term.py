"""Term sheets: previewed, run, run again, exported, rolled over into other shells."""

from __future__ import annotations

import json
import tomllib
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from tests.conftest import Sides
from tests.service.campus import read_shell
from tools.world import at_campus, at_press
from tools.world.actors import CommandLine
from tools.world.world import World

from vennpair.client import VennPair

ONE, TWO, THREE = "HYD 210-TM1", "HYD 210-TM2", "HYD 210-TM3"
SHEET = f"""
term = "Spring 2027"
units = ["Unit 1", "Unit 2"]
access = "fee"

[item."Unit 1 quiz"]
category = "Quizzes at home"

[[section]]
shell = "{ONE}"

[[section]]
shell = "{TWO}"
shift_days = 7
without = ["Practice set 2B"]

[section.item."Practice set 1A"]
visible = false
"""


def links(world: World, sides: Sides) -> list[dict[str, Any]]:
    rows = read_shell(world, sides.context_id)["links"]
    return [each for each in rows if each["kind"] == "lti_link"]


def differences(cli: CommandLine, *words: str) -> list[tuple[str, str, str, str]]:
    found = cli.json("term", "preview", *words)["differences"]
    return [(row["shell"], row["what"], row["item"], row["why"]) for row in found]


@pytest.fixture(scope="module")
def sheet(tmp_path_factory: pytest.TempPathFactory) -> Path:
    file = tmp_path_factory.mktemp("term") / "spring.toml"
    file.write_text(SHEET)
    return file


@pytest.fixture(scope="module")
def two(venn: VennPair, new_sides: Callable[[str], Sides]) -> tuple[Sides, Sides]:
    """Two shells that are not paired, with a course that fits each."""
    sides = new_sides(ONE), new_sides(TWO)
    list(venn.courses(ONE, refresh=True))
    return sides


def test_a_sheet_pairs_places_and_opens_and_the_second_time_does_nothing(
    world: World, cli: CommandLine, two: tuple[Sides, Sides], sheet: Path
) -> None:
    before = [read_shell(world, each.context_id) for each in two]
    ahead = cli("term", "preview", str(sheet))
    assert ahead.status == 1
    assert ahead.out.count("not paired") == 2
    refused = cli("term", "run", str(sheet))
    assert (refused.status, "--agree" in refused.err) == (6, True)
    assert [read_shell(world, each.context_id) for each in two] == before

    ran = cli("term", "run", str(sheet), "--agree")
    assert ran.status == 0, ran.out + ran.err
    assert "2 sections are live" in ran.out
    one, other = (links(world, each) for each in two)
    shown = [each["title"] for each in one]
    assert [each["title"] for each in other] == [
        title for title in shown if title != "Practice set 2B"
    ]
    assert {each["title"] for each in other if not each["visible"]} == {"Practice set 1A"}
    assert all(each["visible"] for each in one)
    assert (one[0]["due"][:10], other[0]["due"][:10]) == ("2027-01-19", "2027-01-26")
    quiz = [
        each["category"]
        for side in two
        for each in read_shell(world, side.context_id)["columns"]
        if each["title"] == "Unit 1 quiz"
    ]
    assert quiz == ["Quizzes at home"] * 2
    outline = at_campus.outline(world, two[0].context_id)
    assert sum(row["title"].startswith("First steps") for row in outline) == 1

    now = [read_shell(world, each.context_id) for each in two]
    sets = cli.json("set-up", "--list")
    again = cli("term", "run", str(sheet))
    assert (again.status, "Nothing differs" in again.out) == (0, True), again.out
    assert cli("term", "preview", str(sheet)).status == 0
    assert [read_shell(world, each.context_id) for each in two] == now
    assert cli.json("set-up", "--list") == sets, "nothing is left of a look"


def test_what_differs_is_shown_with_its_cause_and_brought_back(
    world: World, cli: CommandLine, two: tuple[Sides, Sides], sheet: Path
) -> None:
    first = two[0]
    expected = [read_shell(world, each.context_id) for each in two]
    at_campus.change_entry(world, first.context_id, "Practice set 1B", visible=False)
    at_campus.delete_entries(world, first.context_id, "Practice set 2A")
    at_press.delay_item(world, first.course, "Unit 2 quiz", 2)
    less = sheet.with_name("less.toml")
    less.write_text(SHEET.replace('units = ["Unit 1", "Unit 2"]', 'units = ["Unit 1"]'))
    gone = [row for row in differences(cli, str(less)) if row[1] == "remove"]
    assert {row[3] for row in gone} == {"the sheet does not name it"}
    assert len(gone) > 3
    found = differences(cli, str(sheet))
    assert (ONE, "fix: visible", "Practice set 1B") in [row[:3] for row in found]
    assert (ONE, "fix: link gone", "Practice set 2A") in [row[:3] for row in found]
    assert all("may edit the shell" in row[3] for row in found)
    cli.json("drift", ONE)
    late = (ONE, "change due_at", "Unit 2 quiz", "the publisher changed it")
    assert late in differences(cli, str(sheet))

    ran = cli("term", "run", str(sheet))
    assert ran.status == 0, ran.out + ran.err
    now = [read_shell(world, each.context_id) for each in two]
    dates = {each["title"]: each["due"] for each in now[0]["links"]}
    assert dates["Unit 2 quiz"][:10] == "2027-01-31"
    for side in (*now, *expected):
        for row in (*side["links"], *side["columns"]):
            if row["title"] == "Unit 2 quiz":
                row.pop("due", None)
                row.pop("end", None)
    assert now == expected
    assert cli("term", "preview", str(sheet)).status == 0


def test_a_sheet_of_what_is_says_the_same_and_rolls_over_into_other_shells(
    world: World,
    cli: CommandLine,
    venn: VennPair,
    two: tuple[Sides, Sides],
    new_sides: Callable[[str], Sides],
    tmp_path: Path,
) -> None:
    file = tmp_path / "what-is.toml"
    assert cli("term", "export", ONE, TWO, "--to", str(file)).status == 0
    written = tomllib.loads(file.read_text())
    assert written["section"][1]["without"] == ["Practice set 2B"]
    assert written["section"][1]["item"] == {"Practice set 1A": {"visible": False}}
    assert differences(cli, str(file)) == []

    fresh = new_sides(THREE), new_sides("HYD 210-TM4")
    list(venn.courses(THREE, refresh=True))
    moved = [f"{ONE}={THREE}", f"{TWO}=HYD 210-TM4"]
    words = ["--start", "2027-05-10", "--shell", moved[0], "--shell", moved[1]]
    ran = cli("term", "run", str(file), *words, "--agree")
    opened = [cli("learner-view", each.label, "--last").out for each in fresh]
    assert ran.status == 0, "\n".join([ran.out, ran.err, *opened])
    for old, new in zip(two, fresh, strict=True):
        before, after = links(world, old), links(world, new)
        assert [each["title"] for each in after] == [each["title"] for each in before]
        assert [each["visible"] for each in after] == [each["visible"] for each in before]
        assert after[0]["due"][:10] == "2027-05-11", "the same weekday of the first week"
    assert cli("term", "preview", str(file), *words).status == 0


def test_a_sheet_and_a_command_lead_to_the_same_shell(
    world: World,
    cli: CommandLine,
    venn: VennPair,
    new_sides: Callable[[str], Sides],
    tmp_path: Path,
) -> None:
    sides = new_sides("HYD 210-TM5"), new_sides("HYD 210-TM6")
    list(venn.courses("HYD 210-TM5", refresh=True))
    file = tmp_path / "five.toml"
    file.write_text('undated = "column"\n[[section]]\nshell = "HYD 210-TM5"\n')
    assert cli("term", "run", str(file), "--agree").status == 0
    assert cli("set-up", "HYD 210-TM6", "--undated", "column", "--agree").status == 0
    assert read_shell(world, sides[0].context_id) == read_shell(world, sides[1].context_id)


@pytest.mark.parametrize(
    ("text", "status", "words"),
    [
        ("[[section]]\nshel = 'x'\n", 3, "section.0.shell: it is missing"),
        ("colour = 1\n[[section]]\nshell = 'x'\n", 3, "colour: a sheet does not have this key"),
        ("[[section]\n", 3, "bad.toml"),
        ("term = 'x'\n", 3, "section: it is missing"),
        ("into = 'attic'\n[[section]]\nshell = 'x'\n", 3, "into:"),
        ("start = 'soon'\n[[section]]\nshell = 'x'\n", 3, "start:"),
        ("[[section]]\nshell = 'NO SUCH SHELL'\n", 6, "There is no shell"),
    ],
)
def test_a_sheet_that_is_wrong_says_where(
    cli: CommandLine, tmp_path: Path, text: str, status: int, words: str
) -> None:
    file = tmp_path / "bad.toml"
    file.write_text(text)
    ran = cli("term", "preview", str(file))
    assert (ran.status, words in ran.err) == (status, True), ran.err


def test_the_schema_is_the_one_that_the_docs_have() -> None:
    schema = json.loads(Path("docs/term-sheet.schema.json").read_text())
    assert set(schema["required"]) == {"section"}
    assert schema["properties"]["undated"]["description"].startswith("what graded items without")
