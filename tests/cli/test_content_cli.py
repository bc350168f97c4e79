"""Content by the command line: every command for people and for scripts, its exit code, and what a
dry run leaves alone.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from tests.conftest import Sides
from tests.service.test_content import standing
from tools.world import at_press
from tools.world.actors import CommandLine
from tools.world.world import World

from vennpair.client import VennPair
from vennpair.standins.foreign import write_foreign

NewPairing = Callable[[str], tuple[Sides, str]]


@pytest.fixture(scope="module")
def shell(new_pairing: NewPairing) -> Sides:
    return new_pairing("HYD 210-CCL")[0]


@pytest.fixture(scope="module")
def handbook(tmp_path_factory: pytest.TempPathFactory) -> Path:
    path = tmp_path_factory.mktemp("cartridge") / "handbook.imscc"
    path.write_bytes(write_foreign())
    return path


def test_a_part_comes_in_shown_first_and_goes_out_again(
    world: World, cli: CommandLine, shell: Sides, handbook: Path
) -> None:
    before = standing(world, shell)
    would = cli(
        "cartridge",
        "import",
        shell.label,
        str(handbook),
        "--folder",
        "On the first",
        "--entry",
        "Tide",
        "--into",
        "Station",
        "--dry-run",
    )
    assert would.status == 0
    assert "Into a new folder 'Station': 6 new; 0 with a column." in would.out
    assert "Nothing was changed." in would.out
    assert standing(world, shell) == before
    done = cli.json(
        "cartridge",
        "bring",
        shell.label,
        "--import",
        "Field Station",
        "--folder",
        "On the first",
        "--entry",
        "Tide",
        "--into",
        "Station",
    )
    assert done["delivery"]["words"] == "6 made"
    assert done["failed"] == []
    again = cli(
        "cartridge",
        "bring",
        shell.label,
        "--import",
        "handbook.imscc",
        "--folder",
        "On the first",
        "--into",
        "Station",
    )
    assert (again.status, "There is nothing to do." in again.out) == (0, True)
    listed = cli("cartridge", "entries", shell.label, "--import", "Field", "--state", "made")
    assert "Field notes (2)" in listed.out
    assert (
        "Water model"
        in cli("cartridge", "entries", shell.label, "--import", "Field", "--attention").out
    )
    assert cli.json("cartridge", "imports", shell.label)[0]["stage"] == "done"
    shown = cli("cartridge", "undo", shell.label, "--dry-run")
    assert ("taken out" in shown.out, "Nothing was changed." in shown.out) == (True, True)
    assert "6 taken out" in cli("cartridge", "undo", shell.label).out
    assert standing(world, shell)[:-2] == before[:-2]
    gone = cli("cartridge", "undo", shell.label)
    assert (gone.status, "Nothing" in gone.err or "No such import" in gone.err) == (6, True)


def test_entries_are_looked_into_renamed_and_matched(cli: CommandLine, shell: Sides) -> None:
    quiz = cli("cartridge", "preview", shell.label, "Map quiz", "--import", "Field")
    assert "1. What does sign 1 mean? (multiple choice, 2 points)" in quiz.out
    assert "   - a spring" in quiz.out
    page = cli("cartridge", "preview", shell.label, "How to get", "--import", "Field")
    assert (
        "The station stands" in page.out,
        "<" in page.out,
        "comes with: pages/way.html" in page.out,
    ) == (True, False, True)
    would = cli(
        "cartridge",
        "rename",
        shell.label,
        "--import",
        "Field",
        "--kind",
        "page",
        "--pattern",
        "{unit} – {title}",
        "--dry-run",
    )
    assert "For the staff – Key to the map quiz" in would.out
    assert (
        cli.json(
            "cartridge",
            "rename",
            shell.label,
            "Tide tables",
            "--import",
            "Field",
            "--to",
            "Tides today",
        )[0]["after"]
        == "Tides today"
    )
    assert cli("cartridge", "rename", shell.label, "Tide", "--import", "Field").status == 2
    assert (
        cli(
            "cartridge", "rename", shell.label, "--import", "Field", "--pattern", "{nonsense}"
        ).status
        == 6
    )
    matched = cli(
        "cartridge",
        "match",
        shell.label,
        "Units and conversions",
        "Unit 9 quiz",
        "--import",
        "Rivers",
    )
    assert "opens" in matched.out
    assert "20 points" in matched.out
    assert (
        "no graded item"
        in cli(
            "cartridge", "match", shell.label, "Units and conversions", "none", "--import", "Rivers"
        ).out
    )


def test_a_cartridge_is_written_and_says_what_it_holds(
    cli: CommandLine, shell: Sides, tmp_path: Path
) -> None:
    target = tmp_path / "thin.imscc"
    written = cli.json(
        "cartridge",
        "write",
        shell.label,
        str(target),
        "--import",
        "Rivers",
        "--thin",
        "--folder",
        "Unit 4",
    )
    assert (written["profile"], written["size"]) == ("thin", target.stat().st_size)
    inspected = cli(
        "cartridge", "inspect", str(target), "--known-host", "127.0.0.1", "--format", "json"
    )
    assert inspected.status == 0
    nowhere = cli(
        "cartridge", "write", shell.label, str(tmp_path / "no" / "x.imscc"), "--import", "Rivers"
    )
    assert (nowhere.status, "cannot be written" in nowhere.err) == (2, True)


def test_the_catalogue_is_read_and_chosen_from(
    world: World, cli: CommandLine, new_pairing: NewPairing
) -> None:
    sides, _ = new_pairing("HYD 210-CCT")
    assert "nothing changed" in cli("items", sides.label, "--refresh").out
    at_press.change_item(world, sides.course, "Unit 1 quiz", points=25)
    changed = cli("items", sides.label, "--refresh")
    assert "1 with other points" in changed.out
    assert "Unit 1 quiz\tpoints\t20\t25" in changed.out
    assert len(cli.json("items", sides.label, "--changes")) == 2
    brought = cli(
        "cartridge",
        "import",
        sides.label,
        "--catalogue",
        "--search",
        "unit 1 quiz",
        "--into",
        "Week 1: Where rivers begin",
    )
    assert "Done: 2 made." in brought.out
    assert "25" in cli("items", sides.label, "--placed", "yes").out


def test_wrong_usage_says_what_is_right(
    cli: CommandLine, shell: Sides, venn: VennPair, handbook: Path
) -> None:
    for words, status in (
        (("cartridge", "bring", shell.label), 2),
        (("cartridge", "import", shell.label, "--dry-run"), 2),
        (("cartridge", "import", shell.label, str(handbook), "--catalogue"), 2),
        (("cartridge", "bring", shell.label, "--entry", "no such entry"), 6),
        (("cartridge", "entries", shell.label, "--import", "nothing like it"), 6),
        (("cartridge", "stop", shell.label), 6),
        (("cartridge", "bring", "no such shell", "--all"), 6),
    ):
        ran = cli(*words)
        assert (ran.status, ran.err.startswith("vennpair: ")) == (status, True), words
        assert "Traceback" not in ran.err
