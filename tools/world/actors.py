"""What demo, example and tests do alike: drive the real command line, and be a learner in a
browser.
"""

from __future__ import annotations

import contextlib
import io
import json
import os
import subprocess
import sys
import threading
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from unittest.mock import patch

from tools.world.browser import Browser
from tools.world.world import INSTRUCTOR, PASSWORD, World
from vennpair.cli.main import main


@dataclass
class Ran:
    """What a command gave back."""

    status: int
    out: str
    err: str

    @property
    def json(self) -> Any:
        """Return what it printed, as JSON."""
        return json.loads(self.out)


_alone = threading.Lock()  # what a command prints is caught for the whole process


def run_here(words: Sequence[str], environment: dict[str, str], given: str = "") -> Ran:
    """Run ``vennpair`` in this process; only what ``environment`` says of it is set."""
    out, err = _Captured(), _Captured()
    with (
        _alone,
        patch.dict(os.environ, _bare() | environment, clear=True),
        patch.object(sys, "stdin", _Captured(given)),
        contextlib.redirect_stdout(out),
        contextlib.redirect_stderr(err),
    ):
        status = _status(words)
    return Ran(status, out.text, err.text)


def run_apart(words: Sequence[str], environment: dict[str, str], given: str = "") -> Ran:
    """Run ``vennpair`` as a process of its own, as a shell would."""
    done = subprocess.run(
        [sys.executable, "-m", "vennpair.cli.main", *words],
        input=given,
        capture_output=True,
        text=True,
        env=_bare() | environment,
    )
    return Ran(done.returncode, done.stdout, done.stderr)


def _bare() -> dict[str, str]:
    return {key: value for key, value in os.environ.items() if not key.startswith("VENNPAIR_")}


class CommandLine:
    """Runs ``vennpair`` with a session of its own: in this process, or in one of its own."""

    def __init__(self, world: World, session: str = "session.json") -> None:
        self._session = {"VENNPAIR_SESSION": str(world.home / session)}

    def __call__(
        self, *words: str, given: str = "", environment: dict[str, str] | None = None
    ) -> Ran:
        """Run a command in this process and return what it gave back."""
        return run_here(words, self._session | (environment or {}), given)

    def as_process(
        self, *words: str, given: str = "", environment: dict[str, str] | None = None
    ) -> Ran:
        """Run a command as a process, as a shell would, and return what it gave back."""
        return run_apart(words, self._session | (environment or {}), given)

    def json(self, *words: str) -> Any:
        """Run a command that must succeed and return its JSON.

        Raises AssertionError with its words.
        """
        ran = self(*words, "--format", "json")
        assert ran.status in {0, 1}, f"vennpair {' '.join(words)}: {ran.status}: {ran.err}"
        return ran.json


class _Captured(io.TextIOWrapper):
    """Text as a pipe carries it."""

    def __init__(self, given: str = "") -> None:
        super().__init__(io.BytesIO(given.encode()), encoding="utf-8", newline="\n")

    @property
    def text(self) -> str:
        """Return what was written."""
        self.flush()
        written = self.buffer
        assert isinstance(written, io.BytesIO)
        return written.getvalue().decode()


def _status(words: Sequence[str]) -> int:
    try:
        return main(words)
    except SystemExit as ended:  # --help and --version end so
        return int(ended.code or 0)


def arrive(world: World, *context_ids: str) -> Browser:
    """Let the instructor open Venn Pair from shells once, and give them a password for the command
    line.
    """
    browser = Browser()
    browser.sign_in(world.url("campus"), INSTRUCTOR)
    for context_id in context_ids:
        page = browser.open_link(world.url("campus"), context_id)
        assert page.status == 200, f"{context_id} did not open: {page.words[:300]}"
    world.manage("vennpair", "set_password", INSTRUCTOR, "--password", PASSWORD)
    return browser


def sign_in(world: World, cli: CommandLine, user: str = INSTRUCTOR) -> Ran:
    """Sign the command line in."""
    return cli(
        "sign-in",
        "--service",
        world.url("vennpair"),
        "--user",
        user,
        "--password-stdin",
        given=f"{PASSWORD}\n",
    )


def hand_in(
    world: World,
    email: str,
    context_id: str,
    title: str,
    right: int,
    browser: Browser | None = None,
) -> Browser:
    """Be a learner: open a link through both hops and answer the first ``right`` questions
    rightly.
    """
    if browser is None:
        browser = Browser()
        browser.sign_in(world.url("campus"), email)
    page = browser.open_link(world.url("campus"), context_id, title)
    assert page.status == 200, f"{title} did not open: {page.words[:300]}"
    submit_answers(browser, right)
    return browser


def submit_answers(browser: Browser, right: int) -> None:
    """Answer the item that is open: the first ``right`` questions rightly, the others wrongly."""
    tree = browser.page.tree
    names = dict.fromkeys(tree.xpath("//input[@type='radio']/@name"))
    chosen = {
        name: str(_right(tree, name) if number < right else (_right(tree, name) + 1) % 3)
        for number, name in enumerate(names)
    }
    browser.submit("//form[.//input[@type='radio']]", **chosen)


def type_over(
    world: World,
    context_id: str,
    column: str,
    value: str,
    learner: str = "",
    browser: Browser | None = None,
) -> None:
    """Be the instructor: type a score over in the gradebook, or a column's points where no learner
    is named.
    """
    if browser is None:
        browser = Browser()
        browser.sign_in(world.url("campus"), INSTRUCTOR)
    page = browser.get(f"{world.url('campus')}/shells/{context_id}/gradebook")
    name = f"Points of {column}" if not learner else f"{column}, {learner}"
    assert page.tree.xpath(f'//input[@aria-label="{name}"]'), f"the gradebook has no cell '{name}'"
    browser.submit(f'//form[.//input[@aria-label="{name}"]]', value=value)


def _right(tree: Any, name: str) -> int:
    """Solve the sum: width times speed, as its legend says."""
    fieldset = tree.xpath(f"//fieldset[.//input[@name='{name}']]")[0]
    words = fieldset.xpath("./legend")[0].text_content().split()
    answer = int(words[3]) * int(words[words.index("at") + 1])
    labels = [int(label.text_content().split()[0]) for label in fieldset.xpath("./label")]
    return labels.index(answer)
