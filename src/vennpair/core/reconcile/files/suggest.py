"""Look at a wide table and write a first layout for it: what can be seen is said, what is guessed
is marked as a guess.
"""

from __future__ import annotations

import codecs
import csv
import io
import json
import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field

from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.files.layout import SEPARATORS

LOOKED_AT = 400  # rows
NEVER_A_SCORE = ("-", "–", "—", "n/a", "N/A")
MOSTLY = 0.6
_NUMBER = re.compile(r"[+-]?[0-9]+(?:[.,][0-9]+)?")
_COMMA = re.compile(r"[+-]?[0-9]+,[0-9]+")
_POINTS = re.compile(
    r"\s*[\(\[]\s*(?:[A-Za-z]+\s*)*([0-9]+(?:[.,][0-9]+)?)\s*(?:[A-Za-z]+\s*)*[\)\]]\s*$"
)
_SUMS = re.compile(
    r"\b(total|sum|average|mean|final|overall|grade|letter|subtotal|percent)\b", re.IGNORECASE
)
_ID = re.compile(
    r"\b(id|number|no\.?|nr\.?|username|user name|login|sis|matric\w*)\b", re.IGNORECASE
)
_NAME = re.compile(
    r"\b(name|surname|forename|first|last|given|family|student|learner)\b", re.IGNORECASE
)


@dataclass(slots=True)
class Suggestion:
    """A layout as TOML, and what was guessed of it, for a person to look over."""

    layout: str
    guesses: list[str] = field(default_factory=list)


@dataclass(slots=True)
class _Seen:
    encoding: str
    separator: str
    rows: list[tuple[int, list[str]]]
    header: int = 0  # position in rows
    points: int | None = None
    titles: list[str] = field(default_factory=list)
    body: list[list[str]] = field(default_factory=list)


def suggest_layout(data: bytes, file: str) -> Suggestion:
    """Return a first layout of a wide table.

    Raises TableError where the file is empty, a zip, or no table with learners can be seen.
    """
    if data.startswith(b"PK"):
        raise TableError(
            "not_a_table",
            file,
            None,
            f"{file} is a zip; a OneRoster set needs no layout.",
            "Compare it as it is.",
        )
    encoding, text = _decoded(data)
    separator = _separator(text)
    found = [
        (line, fields)
        for line, fields in _rows(text, separator)
        if any(each.strip() for each in fields)
    ]
    if not found:
        raise TableError(
            "empty_file",
            file,
            None,
            f"{file} holds nothing at all.",
            "Export it again; even a class without scores has a header line.",
        )
    seen = _Seen(encoding, separator, found)
    guesses: list[str] = []
    _find_header(seen, file)
    learner = _learner(seen, guesses)
    if "id" not in learner and "email" not in learner:
        raise TableError(
            "missing_header",
            file,
            seen.rows[seen.header][0],
            f"No column of {file} looks like an id or an email of the learner, and a name alone"
            " matches nobody.",
            "Export it with one of them.",
        )
    return Suggestion(_write(seen, learner, guesses), guesses)


def _decoded(data: bytes) -> tuple[str, str]:
    if data.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return "", data.decode("utf-16", "replace")
    try:
        return "", data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return "windows-1252", data.decode("windows-1252", "replace")


def _separator(text: str) -> str:
    """Return the separator under which most rows have the same number of fields, more than one."""
    best, score = ",", 0
    for separator in SEPARATORS:
        widths = Counter(len(fields) for _, fields in _rows(text, separator))
        width, count = max(
            ((width, count * width) for width, count in widths.items() if width > 1),
            key=lambda each: each[1],
            default=(0, 0),
        )
        if width > 1 and count > score:
            best, score = separator, count
    return best


def _rows(text: str, separator: str) -> list[tuple[int, list[str]]]:
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator)
    found: list[tuple[int, list[str]]] = []
    line = 1
    try:
        for fields in reader:
            found.append((line, fields))
            line = reader.line_num + 1
            if len(found) >= LOOKED_AT:
                break
    except csv.Error:
        return found
    return found


def _find_header(seen: _Seen, file: str) -> None:
    """The header is the first row of the table's width whose titles are words, each there once,
    over rows that hold numbers or addresses.
    """
    width = Counter(len(fields) for _, fields in seen.rows).most_common(1)[0][0]
    for position, (_, fields) in enumerate(seen.rows):
        titles = [each.strip() for each in fields if each.strip()]
        if (
            len(fields) == width > 1
            and len(titles) >= max(2, width // 2)
            and len(set(titles)) == len(titles)
            and not any(_NUMBER.fullmatch(each) or "@" in each for each in titles)
        ):
            seen.header, seen.titles = position, [each.strip() for each in fields]
            break
    else:
        raise TableError(
            "missing_header",
            file,
            1,
            f"No line of {file} looks like a header of titles over a table.",
            "Write the layout by hand: see docs/layouts.md.",
        )
    rest = [fields for _, fields in seen.rows[seen.header + 1 :]]
    if rest and _is_points(rest[0], rest[1:]):
        seen.points = seen.header + 1
        rest = rest[1:]
    seen.body = [fields for fields in rest if len(fields) == width]


def _is_points(row: Sequence[str], rest: Sequence[Sequence[str]]) -> bool:
    """Say whether a row states points: numbers only where scores are, and none of them smaller
    than the scores below.
    """
    numbers = {
        place: _value(each) for place, each in enumerate(row) if _NUMBER.fullmatch(each.strip())
    }
    if not numbers or any("@" in each for each in row):
        return False
    words = " ".join(each for each in row if not _NUMBER.fullmatch(each.strip())).casefold()
    if "point" in words or "max" in words or "out of" in words or "possible" in words:
        return True
    below = [
        (place, _value(fields[place]))
        for fields in rest
        for place in numbers
        if place < len(fields) and _NUMBER.fullmatch(fields[place].strip())
    ]
    blank = sum(not each.strip() for each in row)
    return (
        blank >= 1
        and len(numbers) + blank == len(row)
        and all(value <= numbers[place] for place, value in below)
    )


def _value(text: str) -> float:
    return float(text.strip().replace(",", "."))


def _learner(seen: _Seen, guesses: list[str]) -> dict[str, list[str]]:
    found: dict[str, list[str]] = {}
    for place, title in enumerate(seen.titles):
        values = [row[place].strip() for row in seen.body if row[place].strip()]
        if not title or not values:
            continue
        if sum("@" in each for each in values) > MOSTLY * len(values):
            found.setdefault("email", []).append(title)
        elif _ID.search(title) and len(set(values)) > MOSTLY * len(values):
            found.setdefault("id", []).append(title)
        elif _NAME.search(title) and sum(
            bool(_NUMBER.fullmatch(each)) for each in values
        ) < 0.2 * len(values):
            found.setdefault("name", []).append(title)
    for kind in ("id", "email"):
        if len(found.get(kind, [])) > 1:
            guesses.append(
                f"several columns look like the learner's {kind} ({', '.join(found[kind])});"
                f" '{found[kind][0]}' was taken"
            )
    return found


def _write(seen: _Seen, learner: dict[str, list[str]], guesses: list[str]) -> str:
    taken = {title for titles in learner.values() for title in titles}
    items, left, odd = _items(seen, taken, guesses)
    cells = [row[place].strip() for row in seen.body for place in items]
    comma = sum(bool(_COMMA.fullmatch(each)) for each in cells) > 0 and not any(
        "." in each for each in cells if _NUMBER.fullmatch(each)
    )
    blank = [each for each in NEVER_A_SCORE if each in cells]
    lines = [
        "# A first layout, written by looking; check what is marked with ? (docs/layouts.md).",
        "[table]",
    ]
    lines += [f"separator = {_toml(seen.separator)}"] if seen.separator != "," else []
    lines += ['decimal = ","'] if comma else []
    lines += [f'encoding = "{seen.encoding}"  # ? it is not UTF-8'] if seen.encoding else []
    lines += [f"header = {seen.rows[seen.header][0]}"]
    lines += [f"points = {seen.rows[seen.points][0]}"] if seen.points is not None else []
    lines += [f"blank = {_toml(blank)}  # ? taken as no score, not as 0"] if blank else []
    lines += ["", "[learner]"]
    lines += [f"{kind} = {_toml(learner[kind][0])}" for kind in ("id", "email") if kind in learner]
    lines += [f"name = {_toml(learner['name'])}"] if "name" in learner else []
    lines += ["", "[items]"]
    lines += [f"except = {_toml(left)}  # ? these look like no items"] if left else []
    titles = [seen.titles[place] for place in items]
    if titles and sum(bool(_POINTS.search(each)) for each in titles) > MOSTLY * len(titles):
        lines.append(f"points = '{_POINTS.pattern}'")
    if odd:
        lines.append(f"# ? not a number and left for you to decide: {', '.join(odd)}")
        guesses.append(
            f"scores that are not numbers were seen ({', '.join(odd)}); put those that mean no score"
            " into 'blank'"
        )
    return "\n".join(lines) + "\n"


def _items(
    seen: _Seen, taken: set[str], guesses: list[str]
) -> tuple[list[int], list[str], list[str]]:
    """Return the places of the items, the titles of what looks like none, and texts among the
    scores that are no numbers.
    """
    items: list[int] = []
    left: list[str] = []
    odd: Counter[str] = Counter()
    for place, title in enumerate(seen.titles):
        if not title or title in taken:
            continue
        values = [
            row[place].strip()
            for row in seen.body
            if row[place].strip() and row[place].strip() not in NEVER_A_SCORE
        ]
        numbers = sum(bool(_NUMBER.fullmatch(each)) for each in values)
        if _SUMS.search(title) or (values and numbers < MOSTLY * len(values)):
            left.append(title)
        else:
            items.append(place)
            odd.update(each for each in values if not _NUMBER.fullmatch(each))
    if left:
        guesses.append(f"left out as no items: {', '.join(left)}")
    return items, left, [each for each, _ in odd.most_common(8)]


def _toml(value: str | Sequence[str]) -> str:
    """Write a text or a list of texts; a JSON string is a TOML basic string too."""
    return (
        json.dumps(value, ensure_ascii=False)
        if isinstance(value, str)
        else "[" + ", ".join(json.dumps(each, ensure_ascii=False) for each in value) + "]"
    )
