"""Tables on a terminal: no word is broken, whatever its width."""

from __future__ import annotations

import io

import pytest
from rich.console import Console

from vennpair.cli.output import Output

HEAD = ("finding", "learner", "item", "publisher", "gradebook", "sent", "cause")
ROW = (
    "behind",
    "Ansgar Wintermantel",
    "Practice set 1A (Unit 1: Where rivers begin)",
    "8.5",
    "7",
    "7",
    "A resubmission never reached the gradebook.",
)


def shown(width: int) -> str:
    """Return what a terminal of a width shows."""
    out, text = Output(False), io.StringIO()
    out.terminal = True
    out._out = Console(file=text, width=width, highlight=False, force_terminal=False)
    out.table(HEAD, [ROW])
    return text.getvalue()


@pytest.mark.parametrize("width", [40, 60, 80, 100, 200])
def test_words_stay_whole_at_every_width(width: int) -> None:
    text = shown(width)
    words = {word for cell in (*HEAD, *ROW) for word in cell.split()}
    assert words <= set(text.split())
    assert max(map(len, text.splitlines())) <= width


def test_a_window_that_is_too_narrow_gets_one_line_for_each_field() -> None:
    assert "learner    Ansgar Wintermantel" in " ".join(shown(60).splitlines())
