"""Names: proposed where there is none, told apart where they are equal, changed by a pattern for
many at once.
"""

from __future__ import annotations

import string
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from vennpair.core.counting import many
from vennpair.core.reconcile.columns import fold_title

KIND_WORDS = {
    "folder": "Folder",
    "page": "Page",
    "file": "File",
    "web_link": "Link",
    "discussion": "Discussion",
    "assignment": "Assignment",
    "lti_link": "Practice",
    "assessment": "Quiz",
    "question_bank": "Question bank",
    "other": "Entry",
}
PLACEHOLDERS = ("title", "unit", "number", "kind")
LONGEST = 255


@dataclass(frozen=True, slots=True)
class Named:
    """A name and how it came about: empty as the source has it, ``proposed`` or ``told_apart``,
    with the reason.
    """

    name: str
    how: str = ""
    why: str = ""


def proposed(descriptor_title: str, kind: str, unit: str, turn: int) -> Named:
    """Propose a name for an untitled entry: its descriptor's, else its kind, its turn among that
    kind, and the unit.
    """
    if descriptor_title:
        return Named(descriptor_title, "proposed", "the linked resource is called so")
    words = f"{KIND_WORDS.get(kind, 'Entry')} {turn}" + (f" of {unit}" if unit else "")
    return Named(words, "proposed", "by its kind, its place" + (" and its unit" if unit else ""))


def tell_apart(names: Sequence[Named], units: Sequence[str]) -> list[Named]:
    """Give equal names a telling addition: the unit where it tells them apart, and else a
    number.
    """
    titles = Counter(fold_title(each.name) for each in names)
    in_units: dict[str, set[str]] = {}
    for each, unit in zip(names, units, strict=True):
        in_units.setdefault(fold_title(each.name), set()).add(unit)
    seen: Counter[str] = Counter()
    told = []
    for each, unit in zip(names, units, strict=True):
        shown, count = each.name, titles[fold_title(each.name)]
        if unit and len(in_units[fold_title(each.name)]) > 1:
            shown = f"{each.name} ({unit})"
        seen[fold_title(shown)] += 1
        if (turn := seen[fold_title(shown)]) > 1:
            shown = f"{shown} ({turn})"
        told.append(
            each
            if shown == each.name
            else Named(
                shown,
                "told_apart",
                f"{many(count, 'entry is', 'entries are')} called '{each.name}'",
            )
        )
    return told


@dataclass(frozen=True, slots=True)
class Renamed:
    """An entry before a pattern is applied."""

    title: str
    unit: str
    kind: str


def by_pattern(pattern: str, rows: Sequence[Renamed]) -> list[str]:
    """Return the new names: ``{title}``, ``{unit}``, ``{kind}``, and ``{number}`` counted from 1.

    Raises ValueError for another placeholder, a lone brace, or a pattern that leaves a name empty.
    """
    try:
        asked = {name for _, name, _, _ in string.Formatter().parse(pattern) if name is not None}
    except ValueError as error:
        raise ValueError("the pattern has a brace that is not closed, or one too many") from error
    if asked - set(PLACEHOLDERS):
        raise ValueError(
            f"the pattern knows only {', '.join('{' + name + '}' for name in PLACEHOLDERS)}"
        )
    names = [
        " ".join(
            pattern.format(
                title=row.title,
                unit=row.unit,
                kind=KIND_WORDS.get(row.kind, "Entry"),
                number=number,
            ).split()
        )[:LONGEST]
        for number, row in enumerate(rows, start=1)
    ]
    if not all(names):
        raise ValueError("the pattern leaves a name empty")
    return names
