"""The layout of a wide table (docs/layouts.md): which columns are the learner's, which are items,
where points are.
"""

from __future__ import annotations

import re
import tomllib
from dataclasses import dataclass
from typing import Any

from vennpair.core.reconcile.files.errors import TableError

SEPARATORS = (",", ";", "\t", "|")
_KEYS = {
    "table": {"separator", "decimal", "encoding", "header", "points", "first", "blank"},
    "learner": {"id", "email", "name"},
    "items": {"columns", "except", "points", "rounds"},
}


@dataclass(frozen=True, slots=True)
class Layout:
    """How to read a wide table. Lines count from 1; ``first`` is the first line with a learner."""

    separator: str = ","
    decimal: str = "."
    encoding: str = ""
    header: int = 1
    points: int = 0
    first: int = 2
    blank: tuple[str, ...] = ()
    id: str = ""
    email: str = ""
    name: tuple[str, ...] = ()
    columns: tuple[str, ...] = ()
    leave_out: tuple[str, ...] = ()
    points_pattern: re.Pattern[str] | None = None
    rounds: tuple[str, ...] | bool = ()

    def rounding(self, title: str) -> bool:
        """Say whether the column of a title rounds to whole numbers."""
        return self.rounds if isinstance(self.rounds, bool) else title in self.rounds


def read_layout(text: str, file: str) -> Layout:
    """Read a layout from TOML. Raises TableError ``bad_layout`` naming what is wrong."""
    try:
        document = tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise _bad(file, f"it is not TOML: {error}") from error
    for section, keys in document.items():
        if section not in _KEYS or not isinstance(keys, dict) or set(keys) - _KEYS[section]:
            unknown = (
                ", ".join(sorted(set(keys) - _KEYS[section]))
                if section in _KEYS and isinstance(keys, dict)
                else section
            )
            raise _bad(file, f"'{unknown}' is none of its keys")
    table, learner, items = (document.get(section, {}) for section in ("table", "learner", "items"))
    layout = Layout(
        separator=_one_of(table.get("separator", ","), SEPARATORS, file, "separator"),
        decimal=_one_of(table.get("decimal", "."), (".", ","), file, "decimal"),
        encoding=str(table.get("encoding", "")),
        header=_line(table.get("header", 1), file, "header"),
        points=_line(table["points"], file, "points") if "points" in table else 0,
        first=_line(
            table.get("first", max(table.get("header", 1), table.get("points", 0)) + 1),
            file,
            "first",
        ),
        blank=_texts(table.get("blank", []), file, "blank"),
        id=str(learner.get("id", "")),
        email=str(learner.get("email", "")),
        name=_texts(learner.get("name", []), file, "name"),
        columns=_texts(items.get("columns", []), file, "columns"),
        leave_out=_texts(items.get("except", []), file, "except"),
        points_pattern=_pattern(items.get("points"), file),
        rounds=items["rounds"]
        if isinstance(items.get("rounds"), bool)
        else _texts(items.get("rounds", []), file, "rounds"),
    )
    if not layout.id and not layout.email:
        raise _bad(
            file,
            "it names no column for the learner's id or email, and a name alone matches nobody",
        )
    return layout


def _bad(file: str, what: str) -> TableError:
    return TableError(
        "bad_layout",
        file,
        None,
        f"The layout {file} cannot be used: {what}.",
        "See docs/layouts.md for what it may say.",
    )


def _one_of(value: Any, allowed: tuple[str, ...], file: str, key: str) -> str:
    if value not in allowed:
        raise _bad(file, f"{key} is one of {', '.join(repr(each) for each in allowed)}")
    return str(value)


def _line(value: Any, file: str, key: str) -> int:
    if not isinstance(value, int) or isinstance(value, bool) or value < 1:
        raise _bad(file, f"{key} is the number of a line, from 1")
    return value


def _texts(value: Any, file: str, key: str) -> tuple[str, ...]:
    texts = [value] if isinstance(value, str) else value
    if not isinstance(texts, list) or not all(isinstance(each, str) for each in texts):
        raise _bad(file, f"{key} is a text or a list of texts")
    return tuple(texts)


def _pattern(value: Any, file: str) -> re.Pattern[str] | None:
    if value is None:
        return None
    try:
        pattern = re.compile(value)
    except (re.error, TypeError) as error:
        raise _bad(file, f"points is not a regular expression: {error}") from error
    if pattern.groups != 1:
        raise _bad(file, "points needs exactly one group, around the number")
    return pattern
