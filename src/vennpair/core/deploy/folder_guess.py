"""Which folder of a shell a unit of homework belongs into: by name, by number, or by its place."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from vennpair.core.pair.guess import fold

_NUMBERED = re.compile(r"^\s*(\D*?)\s*0*(\d{1,3})\b")
# Words by which courses count their parts; other folders with a number may be anything, such as an
# exam.
_PARTS = frozenset(
    [
        "unit",
        "week",
        "module",
        "chapter",
        "part",
        "lesson",
        "section",
        "topic",
        "session",
        "block",
        "day",
        "theme",
    ]
)


@dataclass(frozen=True, slots=True)
class FolderGuess:
    """The folder for a unit: its title, the id where it is there already, and why it is taken."""

    unit: str
    folder: str
    node: str
    why: str


def guess_folders(
    units: Sequence[str], folders: Sequence[tuple[str, str]]
) -> tuple[FolderGuess, ...]:
    """Return a folder for each unit, in their order; ``folders`` are the ids and titles of those in
    the shell. A unit that fits none gets a new folder of its own name. No folder is taken twice.
    """
    free = list(folders)
    found: dict[str, FolderGuess] = {}

    def take(unit: str, folder: tuple[str, str], why: str) -> None:
        free.remove(folder)
        found[unit] = FolderGuess(unit, folder[1], folder[0], why)

    for unit in units:
        if same := [each for each in free if fold(each[1]) == fold(unit)]:
            take(unit, same[0], "it has the same name")
    for unit in units:
        number = _number(unit)
        if unit in found or number is None:
            continue
        fitting = [each for each in free if _number(each[1]) == number]
        if len(fitting) == 1 and _counts(fitting[0][1], folders):
            take(unit, fitting[0], f"both are number {number}")
    left = [unit for unit in units if unit not in found]
    counted = [each for each in free if _counts(each[1], folders)]
    if left and not found and len(left) == len(counted):
        for place, (unit, folder) in enumerate(zip(left, counted, strict=True), start=1):
            take(unit, folder, f"both are number {place} in order")
    return tuple(
        found.get(unit) or FolderGuess(unit, unit, "", "no folder fits, so it is created")
        for unit in units
    )


def _number(title: str) -> int | None:
    """Return the number by which a course counts a part: of 'Week 02: Rain', 2; of '3. Rivers', 3."""
    match = _NUMBERED.match(title)
    if match is None:
        return None
    word = fold(match[1]).strip()
    return int(match[2]) if not word or word in _PARTS else None


def _counts(title: str, folders: Sequence[tuple[str, str]]) -> bool:
    """Say whether a folder is one of a counted row, such as Week 1, Week 2, …"""
    words = Counter(
        fold(match[1]).strip() for _, each in folders if (match := _NUMBERED.match(each))
    )
    match = _NUMBERED.match(title)
    word = fold(match[1]).strip() if match else ""
    return match is not None and (word in _PARTS or words[word] > 1)
