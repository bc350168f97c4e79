"""One world of real processes for all tests that need it: campus, press, service, worker,
PostgreSQL.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import pytest
from tools.house.browser import Browser
from tools.house.shop import CommandLine, arrive, sign_in
from tools.house.world import INSTRUCTOR, PASSWORD, World

from vennpair.client import VennPair

EXAMPLES = Path(__file__).parent / "examples"


@pytest.fixture(scope="session")
def world() -> Iterator[World]:
    """A freshly laid world; its processes end with the tests."""
    # Dozens of rollouts would each open their links as a learner, in the way of what a test looks
    # at; those that mean it ask.
    # Nor may a run that falls into the night look at what a test is just changing.
    made = World("test", VENNPAIR_CHECK_AS_LEARNER="false", VENNPAIR_NIGHTLY="false")
    made.start(fresh=True)
    arrive(made, "tarnfield-hyd210-02-s27")
    yield made
    made.stop()


@pytest.fixture(scope="session")
def cli(world: World) -> CommandLine:
    """The command line, signed in as the instructor."""
    line = CommandLine(world)
    assert sign_in(world, line).status == 0
    return line


@pytest.fixture(scope="session")
def venn(world: World) -> Iterator[VennPair]:
    """The client, signed in as the instructor."""
    with VennPair(world.url("vennpair")) as stranger:
        token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
    with VennPair(world.url("vennpair"), token) as client:
        yield client


@dataclass(frozen=True)
class Sides:
    """A shell and a homework course made for one test."""

    label: str
    context_id: str
    course: str


@pytest.fixture(scope="session")
def new_sides(world: World) -> Callable[[str], Sides]:
    """Make a fresh shell with six learners, known to the service, and a homework course of the same
    section.
    """

    made: set[str] = set()

    def make(label: str) -> Sides:
        assert label not in made, f"{label} is the shell of another test; take a label of your own"
        made.add(label)
        with ThreadPoolExecutor(
            2
        ) as threads:  # each command takes a second to start, and there are dozens
            asked = [
                threads.submit(world.manage, "campus", "add_shell", "--label", label),
                threads.submit(world.manage, "press", "add_course", "--code", label),
            ]
            shell, course = (json.loads(each.result()) for each in asked)
        teacher = Browser()  # the world's own arrival set the password already
        teacher.sign_in(world.url("campus"), INSTRUCTOR)
        teacher.open_link(world.url("campus"), shell["context_id"])
        return Sides(label, shell["context_id"], course["course"])

    return make


def paired(venn: VennPair, sides: Sides) -> str:
    """Pair a shell with its course and read nothing of it; return the pairing's id."""
    shell = next(each for each in venn.shells() if each["label"] == sides.label)
    course = next(
        each for each in venn.courses(sides.label, refresh=True) if each["code"] == sides.label
    )
    return str(venn.pair(shell["id"], course["id"], agree=True)["id"])


@pytest.fixture(scope="session")
def new_pairing(
    new_sides: Callable[[str], Sides], venn: VennPair
) -> Callable[[str], tuple[Sides, str]]:
    """Make a pairing whose content is imported; return its sides and id."""

    def make(label: str) -> tuple[Sides, str]:
        sides = new_sides(label)
        pairing = paired(venn, sides)
        venn.wait(venn.start_import(pairing)["job"])
        return sides, pairing

    return make
