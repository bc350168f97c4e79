"""Every command against a service that answers as the kept schema says: what it prints in each form,
that a dry run changes nothing, and how it ends when it is refused, not reached or interrupted.
"""

from __future__ import annotations

import argparse
import itertools
import json
from collections.abc import Callable, Iterator
from pathlib import Path
from unittest.mock import Mock, patch

import httpx
import pytest
from tests.client.schema_service import ID, REFUSED, Service
from tools.world.actors import Ran, run_here

from vennpair.cli.main import parser

CARTRIDGE = Path(__file__).parents[1] / "examples/cartridge/plain-good.imscc"
SCORES = "learner,item,score\nx,x,1\n"
SHEET = "[[section]]\nshell = 'x'\n"
Answer = Callable[[httpx.Request], httpx.Response]
# What these ask for reads, compares or plans: it changes nothing on either side.
HARMLESS = {
    "pairings_catalogue_create",
    "pairings_comparisons_create",
    "pairings_drifts_create",
    "set_ups_create",
    "set_ups_destroy",
    "set_ups_plan_create",
}
FOLLOWS = {"relay watch"}  # until it is interrupted
ALONE = {"cartridge inspect", "college-sign-in", "sign-out"}  # may end without asking a service
# What makes these change something.
WORDS = {
    "pair": ["--agree"],
    "pair-several": ["x", "--agree"],
    "set-up": ["--agree"],
    "tool": ["--off"],
    "copied": ["--same"],
    "first-steps": ["--access", "fee", "--place"],
    "cartridge bring": ["--all"],
    "cartridge rename": ["x", "--to", "y"],
    "deploy": ["x"],
    "drift": ["--follow"],
    "average": ["--title", "y"],
    "relay rule": ["--when", "due"],
    "settle": ["--safe"],
    "schedule": ["--no-nightly"],
}
STATES = {"settlements carry-out": "proposed"}  # of what they change


def commands(
    top: argparse.ArgumentParser, path: tuple[str, ...] = ()
) -> Iterator[tuple[str, argparse.ArgumentParser]]:
    """Yield each command that can be run, with its words."""
    for action in top._actions:
        if isinstance(action, argparse._SubParsersAction):
            for word, below in action.choices.items():
                yield from commands(below, (*path, word))
    if top.get_default("run"):
        yield " ".join(path), top


ALL = dict(commands(parser()))
# The one has a dry run of a file that it writes; in the other both sides are called alike here.
OTHERWISE = {"reconcile", "connection set"}
DRY = [
    name
    for name, each in ALL.items()
    if "--dry-run" in each._option_string_actions and name not in OTHERWISE
]


@pytest.fixture
def run(tmp_path: Path) -> Callable[..., Ran]:
    """Run a command with something for all that it needs, at a service that the test answers for;
    its pauses take no time, and who waits for too long interrupts it.
    """
    (tmp_path / "sheet.toml").write_text(SHEET)
    (tmp_path / "scores.csv").write_text(SCORES)
    session = {
        "VENNPAIR_SERVICE": "https://pair.example",
        "VENNPAIR_TOKEN": "t",
        "VENNPAIR_SESSION": str(tmp_path / "session.json"),
    }
    client = httpx.Client

    def file_for(name: str) -> str:
        if name.startswith("term"):
            return str(tmp_path / "sheet.toml")
        return str(CARTRIDGE if name.startswith("cartridge") else tmp_path / "scores.csv")

    def needed(name: str) -> Iterator[str]:
        words = {
            "file": file_for(name),
            "target": str(tmp_path / "written.imscc"),
            **dict.fromkeys(("rollout", "operation", "settlement"), ID),
        }
        for action in ALL[name]._actions:
            if action.option_strings and action.required:
                yield from (action.option_strings[0], "x")
            elif not action.option_strings and action.nargs != "*":
                yield words.get(action.dest) or str(next(iter(action.choices or ["x"])))

    def ran(name: str, service: Answer, *more: str) -> Ran:
        pauses = Mock(side_effect=itertools.chain([None] * 20, itertools.repeat(KeyboardInterrupt)))
        answering = patch.object(
            httpx, "Client", lambda **words: client(**words | {"transport": transport})
        )
        transport = httpx.MockTransport(service)
        with answering, patch("time.sleep", pauses):
            return run_here([*name.split(), *needed(name), *more], session, given="secret\n")

    return ran


def the_error(ran: Ran) -> dict[str, str]:
    """Return the error that a command ended with, told as JSON and nothing else."""
    assert not ran.out, "data beside an error"
    error: dict[str, str] = json.loads(ran.err)["error"]
    assert error["code"]
    assert error["message"]
    return error


@pytest.mark.parametrize("name", ALL)
def test_a_command_prints_one_document_or_one_error(name: str, run: Callable[..., Ran]) -> None:
    for full in (True, False):
        ran = run(name, Service(full=full), "--format", "json")
        if ran.status in {0, 1}:
            assert isinstance(json.loads(ran.out), dict | list)
        elif ran.status == 130:
            assert name in FOLLOWS, "it waits without an end"
        else:
            assert ran.status in range(7)
            the_error(ran)


@pytest.mark.parametrize("name", ALL)
def test_a_command_speaks_to_people(name: str, run: Callable[..., Ran]) -> None:
    ran = run(name, Service())
    if ran.status in {0, 1}:
        assert ran.out
        assert not ran.out.startswith("{"), "JSON that nobody asked for"
    else:
        assert ran.status in range(7) or name in FOLLOWS
        assert ran.err.startswith("vennpair: ")
        assert ran.err.count("\n") == 1


@pytest.mark.parametrize("name", DRY)
def test_a_dry_run_changes_nothing(name: str, run: Callable[..., Ran]) -> None:
    """The same words without it change something, so it was the dry run that did not."""
    first, words = STATES.get(name, ""), WORDS.get(name, ())
    dry, wet = Service(full=True, first=first), Service(full=True, first=first)
    assert run(name, dry, *words, "--dry-run").status in {0, 1}
    assert run(name, wet, *words).status in {0, 1, 130}  # what was begun may never end here
    assert set(wet.wrote) - HARMLESS
    assert not set(dry.wrote) - HARMLESS


@pytest.mark.parametrize(
    ("status", "code"), [(401, 5), (403, 5), (404, 6), (409, 6), (422, 6), (500, 6)]
)
def test_a_refusal_is_told_with_what_to_do(status: int, code: int, run: Callable[..., Ran]) -> None:
    for name in ALL:
        service = Service(refused=lambda operation: True, status=status)
        ran = run(name, service, "--format", "json")
        if service.asked:
            assert (name, ran.status) == (name, code)
            assert the_error(ran)["message"] == REFUSED["detail"]
        else:  # what it was given keeps it from asking
            assert name in ALONE or ran.status in {2, 3}, name


def test_a_service_that_is_not_there_is_named(run: Callable[..., Ran]) -> None:
    def nobody(request: httpx.Request) -> httpx.Response:
        raise httpx.ConnectError("refused", request=request)

    for name in ALL:
        ran = run(name, nobody, "--format", "json")
        assert ran.status == 4 or name in ALONE or ran.status in {2, 3}, name
        if ran.status == 4:
            assert "pair.example" in the_error(ran)["message"]
