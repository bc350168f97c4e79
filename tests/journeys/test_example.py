"""The whole job once, through the real command line and real launches, as `make example`
plays it.
"""

from __future__ import annotations

import re

import pytest
from tools import example
from tools.world.world import World


def test_the_example_ends_as_expected_twice_in_a_row(
    world: World, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr(example, "demo_world", lambda: world)
    for _ in range(2):
        example.main()
        told = capsys.readouterr().out
        assert re.search(r"\nexample: 12 steps, all as expected\n$", told)
        assert "NOT AS EXPECTED" not in told
        assert "Typed over in the gradebook after our score of 8 of 10" in told
