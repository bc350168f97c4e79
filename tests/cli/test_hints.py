"""The service speaks of pages; the command line adds the command, ready to be pasted."""

from __future__ import annotations

import shlex

import pytest

from vennpair.cli.hints import COMMANDS, do
from vennpair.cli.main import parser


@pytest.mark.parametrize("code", sorted(COMMANDS))
def test_the_command_of_a_remedy_can_be_pasted(code: str) -> None:
    shell = "HYD 210-01 (copy)"
    said = do(code, "Agree.", shell)
    program, *words = shlex.split(said.removeprefix("Agree. Command: "))
    assert program == "vennpair"
    args = parser().parse_args([each.replace("SCOPE", "read") for each in words])
    assert getattr(args, "shell", shell) in (shell, [shell])


def test_a_remedy_without_a_command_is_left_as_it_is() -> None:
    assert do("outside_down", "Try again later.") == "Try again later."
