"""What demo, example and tests do alike: drive the real command line, and be a learner in a
browser.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
from dataclasses import dataclass
from typing import Any

from tools.house.browser import Browser
from tools.house.world import INSTRUCTOR, PASSWORD, World


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


class CommandLine:
    """Runs ``vennpair`` as its own process with a session of its own."""

    def __init__(self, world: World, session: str = "session.json") -> None:
        self._environment = {
            key: value for key, value in os.environ.items() if not key.startswith("VENNPAIR_")
        } | {"VENNPAIR_SESSION": str(world.home / session)}

    def __call__(
        self, *words: str, given: str = "", environment: dict[str, str] | None = None
    ) -> Ran:
        """Run a command and return what it gave back."""
        done = subprocess.run(
            [sys.executable, "-m", "vennpair.cli.main", *words],
            input=given,
            capture_output=True,
            text=True,
            env=self._environment | (environment or {}),
        )
        return Ran(done.returncode, done.stdout, done.stderr)

    def json(self, *words: str) -> Any:
        """Run a command that must succeed and return its JSON.

        Raises AssertionError with its words.
        """
        ran = self(*words, "--format", "json")
        assert ran.status in {0, 1}, f"vennpair {' '.join(words)}: {ran.status}: {ran.err}"
        return ran.json


def arrive(world: World, *context_ids: str) -> Browser:
    """Let the instructor open Venn Pair from shells once, and give them a password for the command
    line.
    """
    browser = Browser()
    browser.sign_in(world.url("campus"), INSTRUCTOR)
    for context_id in context_ids:
        browser.open_link(world.url("campus"), context_id)
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
