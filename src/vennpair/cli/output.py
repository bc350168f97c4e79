"""What a command prints: tables and progress on a terminal, plain when piped, JSON when asked."""

from __future__ import annotations

import io
import json
import sys
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any, Protocol, TextIO

from rich.console import Console
from rich.progress import BarColumn, Progress, SpinnerColumn, TextColumn
from rich.table import Table
from rich.text import Text

from vennpair.cli.exits import Stop

# What a newer service says beside these has no style.
LEVEL_STYLES = {"error": "bold red", "warning": "yellow", "note": "dim"}
NO_VALUE = "–"
LONGEST_WORD = 18  # that a column is never narrower than
# What a title of another system could do to a terminal, or to the order in which it is read:
# control characters but for tab and line feed, and bidirectional controls (Unicode TR 9).
_HARMFUL = {
    number: "\ufffd"
    for number in (
        *(each for each in (*range(0x20), *range(0x7F, 0xA0)) if each not in {0x09, 0x0A}),
        *(0x061C, 0x200E, 0x200F, *range(0x202A, 0x202F), *range(0x2066, 0x206A)),
    )
}


class Follow(Protocol):
    """Shows how far a job is."""

    def __call__(self, job: Any) -> None:
        """Show it."""


class Output:
    """Where a command's results go. Data goes to stdout, everything else to stderr."""

    def __init__(self, as_json: bool) -> None:
        self.as_json = as_json
        self.terminal = sys.stdout.isatty()
        self._out = Console(highlight=False, soft_wrap=not self.terminal)
        self._err = Console(stderr=True, highlight=False, soft_wrap=not sys.stderr.isatty())

    def document(self, value: Any) -> None:
        """Print a JSON document: spread out for people, on one line when piped, which is many times
        as fast to write.
        """
        sys.stdout.write(_json(value, sys.stdout, 2 if self.terminal else None))

    def event(self, value: Any) -> None:
        """Print one JSON document to a line at once, for whoever follows along."""
        sys.stdout.write(_json(value, sys.stdout))
        sys.stdout.flush()

    def line(self, text: str, style: str = "") -> None:
        """Print one line for people; nothing when JSON was asked for."""
        if not self.as_json:
            self._out.print(Text(harmless(text), style=style))

    def remark(self, text: str) -> None:
        """Print one line beside the data, to stderr."""
        if not self.as_json:
            self._err.print(Text(harmless(text), style="yellow"))

    def table(
        self,
        columns: Sequence[str],
        rows: Sequence[Sequence[Any]],
        *,
        styles: Sequence[str] | None = None,
        empty: str = "",
    ) -> None:
        """Print a table; tab-separated where stdout is no terminal."""
        if self.as_json:
            return
        if not rows:
            if empty:
                self.line(empty, "dim")
        elif not self.terminal:
            for row in [columns, *rows]:
                sys.stdout.write("\t".join(_cell(value) for value in row) + "\n")
        else:
            cells = [[_cell(value) for value in row] for row in rows]
            widths = [
                _needed(name, column)
                for name, column in zip(columns, zip(*cells, strict=True), strict=True)
            ]
            if sum(widths) + 2 * len(widths) > self._out.width:
                self._listed(columns, cells, styles)
                return
            table = Table(box=None, header_style="bold", pad_edge=False)
            for name, width in zip(columns, widths, strict=True):
                table.add_column(
                    name,
                    justify="right"
                    if name in {"points", "publisher", "gradebook", "sent", "fit", "learners"}
                    else "left",
                    overflow="fold",
                    min_width=width,
                )
            for position, row in enumerate(cells):
                table.add_row(*map(Text, row), style=styles[position] if styles else "")
            self._out.print(table)

    def _listed(
        self,
        columns: Sequence[str],
        rows: Sequence[Sequence[str]],
        styles: Sequence[str] | None,
    ) -> None:
        """Print a table that is too wide for the window row by row, so that no word is broken."""
        longest = max(map(len, columns))
        for position, row in enumerate(rows):
            grid = Table.grid(padding=(0, 2))
            grid.add_column(style="dim", min_width=longest)
            grid.add_column(overflow="fold")
            for name, value in zip(columns, row, strict=True):
                if value not in {"", NO_VALUE}:
                    grid.add_row(name, Text(value), style=styles[position] if styles else "")
            self._out.print(grid)
            self._out.print()

    @contextmanager
    def progress(self, words: str) -> Iterator[Follow]:
        """Show a job's progress on a terminal; quietly otherwise."""
        if self.as_json or not sys.stderr.isatty():
            yield lambda job: None
            return
        with Progress(
            SpinnerColumn(),
            TextColumn("{task.description}"),
            BarColumn(),
            TextColumn("{task.completed:.0f}/{task.total:.0f}"),
            console=self._err,
            transient=True,
        ) as bar:
            task = bar.add_task(words, total=1)
            yield lambda job: bar.update(
                task,
                completed=job["done"],
                total=max(job["total"], 1),
                description=harmless(f"{words}: {job['message']}"),
            )

    def stop(self, stop: Stop) -> None:
        """Print why a command ends: one line, or a JSON document, on stderr."""
        if self.as_json:
            sys.stderr.write(
                _json(
                    {
                        "error": {
                            "code": stop.code,
                            "message": stop.message,
                            "remedy": stop.remedy,
                            **stop.facts,
                        }
                    },
                    sys.stderr,
                )
            )
        else:
            words = harmless(f"vennpair: {stop.message} {stop.remedy}".strip())
            sys.stderr.write(words + "\n")


def harmless(text: str) -> str:
    """Return a text without what would move a cursor, change colors or turn the reading order."""
    return text.translate(_HARMFUL)


def print_anything() -> None:
    """Let both streams print names of any alphabet: where theirs lacks a letter, its number takes
    its place.
    """
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")


def _needed(name: str, column: Sequence[str]) -> int:
    """Return how wide a column must be, so that none of its words is broken; an address may be."""
    words = [word for text in (name, *column) for word in text.split()]
    return min(max(map(len, words), default=1), LONGEST_WORD)


def _json(value: Any, stream: TextIO, indent: int | None = None) -> str:
    return (
        json.dumps(
            value,
            ensure_ascii=(stream.encoding or "").lower() not in {"utf-8", "utf8"},
            indent=indent,
        )
        + "\n"
    )


def _cell(value: Any) -> str:
    if value is None or value == "":
        return NO_VALUE
    if isinstance(value, bool):
        return "yes" if value else "no"
    text = harmless(str(value))
    indent = len(text) - len(text.lstrip(" "))
    return " " * indent + " ".join(text.split())
