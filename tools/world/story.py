"""The demo's story (DESIGN 10): a live pairing of section 1 with scores, and the trouble that real
courses have.
"""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor

from tools.world import at_campus, at_press
from tools.world.actors import CommandLine, arrive, hand_in, sign_in, type_over
from tools.world.browser import Browser
from tools.world.hold import until
from tools.world.world import World
from vennpair.standins.tarnfield import Human, section

SHELL, COURSE = "tarnfield-hyd210-01-s27", "rg3-hyd210-01"
LAST_SHELL, COPY = "tarnfield-hyd210-01-f26", "tarnfield-hyd210-copy-s27"
SHELLS = (SHELL, "tarnfield-hyd210-02-s27", "tarnfield-hyd210-03-s27")
WORKED = ("Practice set 1A", "Practice set 1B", "Unit 1 quiz", "Practice set 2A")
UNITS = ("Unit 1", "Unit 2", "Unit 3")
SHELL_LABEL = "HYD 210-01"
FOLDERS = ("Week 1: Where rivers begin", "Week 2: Flow and channels", "Week 3: Sediment")


def plant(world: World, say: Callable[[str], None]) -> None:
    """Play the story through the real command line, real launches and the real gradebook page."""
    cli = CommandLine(world)
    say(
        "the instructor opens Venn Pair from last term's shell, deploys there, and copies it for"
        " this term"
    )
    instructor = arrive(world, LAST_SHELL)
    sign_in(world, cli)
    _last_term(world, cli)
    say("the instructor opens Venn Pair from this term's shells")
    for context_id in (*SHELLS, COPY):
        instructor.open_link(world.url("campus"), context_id)
    say("section 1 is paired, its content imported, three units deployed")
    cli.json("pair", SHELL_LABEL, f"{SHELL_LABEL}, Spring 2027", "--agree")
    cli.json("cartridge", "import", SHELL_LABEL)
    for number, unit in enumerate(UNITS, start=1):
        cli.json("deploy", SHELL_LABEL, "--unit", unit, "--folder", FOLDERS[number - 1])
    cli.json("relay", "on", SHELL_LABEL)
    say("its learners hand in their first work, through both hops")
    with ThreadPoolExecutor(4) as threads:
        list(threads.map(lambda pair: _work(world, *pair), enumerate(section(1))))
    _settle(cli)
    say("trouble is planted: a typed score, changed points, a lost resubmission, another address")
    _trouble(world, instructor)
    cli.json("reconcile", SHELL_LABEL)


def _last_term(world: World, cli: CommandLine) -> None:
    """Last term's shell is paired and has links.

    Its copy brings them along, and nobody has pointed them at the new course.
    """
    shell = "HYD 210-01 F26"
    cli.json("pair", shell, "HYD 210-01, Fall 2026", "--agree")
    cli.json("cartridge", "import", shell)
    cli.json("deploy", shell, "--unit", UNITS[0], "--folder", FOLDERS[0])
    at_campus.copy_shell(world, LAST_SHELL, COPY)


def _work(world: World, position: int, human: Human) -> None:
    email = human.email
    if position in {
        7,
        19,
    }:  # one is registered at the press under another address, one has never started
        return
    browser = None
    for turn, title in enumerate(WORKED if position % 3 else WORKED[:3]):
        browser = hand_in(world, email, SHELL, title, 2 + (position + turn) % 4, browser)


def _settle(cli: CommandLine) -> None:
    """Wait until every score was sent, so that the trouble comes after it."""

    def counts() -> dict[str, int]:
        return dict(cli.json("relay", "status", SHELL_LABEL)["counts"])

    until(lambda: not {"waiting", "sending"} & {k for k, v in counts().items() if v}, counts)


def _trouble(world: World, instructor: Browser) -> None:
    type_over(world, SHELL, "Practice set 1A", "9", "Ada Brook", instructor)
    type_over(world, SHELL, "Practice set 1B", "", "Dov Hale", instructor)
    type_over(world, SHELL, "Unit 1 quiz", "25", browser=instructor)
    at_press.answer(
        world, COURSE, "cara.finch@tarnfield.example", "Practice set 1A", "10", lost=True
    )
    at_press.answer(world, COURSE, "hugo.w@postbox.example", "Practice set 1A", "8", lost=True)
    at_press.answer(world, COURSE, "edda.moor@tarnfield.example", "Practice set 3A", "6", lost=True)
    type_over(world, SHELL, "Practice set 3B", "7.5", "Gwen Tolland", instructor)
    world.manage("campus", "add_column", "--shell", SHELL, "--label", "Field trip report")
