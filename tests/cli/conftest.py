"""Commands at a service of which only the kept schema is known."""

from __future__ import annotations

import argparse
import itertools
import json
from collections.abc import Callable, Iterator
from pathlib import Path
from unittest.mock import Mock, patch

import httpx
import pytest
from tests.client.schema_service import ID
from tools.world.actors import Ran, run_here

from vennpair.cli.main import parser

CARTRIDGE = Path(__file__).parents[1] / "examples/cartridge/plain-good.imscc"
SCORES = "learner,item,score\nx,x,1\n"
SHEET = "[[section]]\nshell = 'x'\n"
Answer = Callable[[httpx.Request], httpx.Response]


def commands(
    top: argparse.ArgumentParser, path: tuple[str, ...] = ()
) -> Iterator[tuple[str, argparse.ArgumentParser]]:
    """Yield each command that can be run, with its words; one of two names by its first."""
    for action in top._actions:
        if isinstance(action, argparse._SubParsersAction):
            first = {id(below): word for word, below in reversed(action.choices.items())}
            for word, below in action.choices.items():
                if first[id(below)] != word:
                    continue
                yield from commands(below, (*path, word))
    if top.get_default("run"):
        yield " ".join(path), top


ALL = dict(commands(parser()))


@pytest.fixture
def run(tmp_path: Path) -> Callable[..., Ran]:
    """Run a command with something for all that it needs and is not given by name, at a service that
    the test answers for; its pauses take no time, and who waits for too long interrupts it.
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

    def needed(name: str, given: dict[str, str]) -> Iterator[str]:
        words = {
            "file": file_for(name),
            "target": str(tmp_path / "written.imscc"),
            **dict.fromkeys(("rollout", "operation", "settlement"), ID),
        } | given
        for action in ALL[name]._actions:
            if action.option_strings and action.required:
                yield from (action.option_strings[0], "x")
            elif not action.option_strings and action.nargs != "*":
                yield words.get(action.dest) or str(next(iter(action.choices or ["x"])))

    def ran(name: str, service: Answer, *more: str, **given: str) -> Ran:
        pauses = Mock(side_effect=itertools.chain([None] * 20, itertools.repeat(KeyboardInterrupt)))
        answering = patch.object(
            httpx, "Client", lambda **words: client(**words | {"transport": transport})
        )
        transport = httpx.MockTransport(service)
        with answering, patch("time.sleep", pauses):
            words = [*name.split(), *needed(name, given), *more]
            return run_here(words, session, given="secret\n")

    return ran


def the_error(ran: Ran) -> dict[str, str]:
    """Return the error that a command ended with, told as JSON and nothing else."""
    assert not ran.out, "data beside an error"
    error: dict[str, str] = json.loads(ran.err)["error"]
    assert error["code"]
    assert error["message"]
    return error
