"""Sentences and what they are in one other language.

A sentence is known by its English, with a name in braces for each part that differs from time to
time: ``{who} does not answer.`` A text is compared with the fixed words of each; what is
between them is taken over, and put into the other language too where it is a sentence itself.
"""

from __future__ import annotations

import calendar
import itertools
import re
from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache

PART = re.compile(r"\{([a-z_]+\d*)\}")
PIECES = re.compile(r"(?<=[.!?:;])(\s+)|(\n+)")
JOINS = re.compile(r"[,;:] | \(")  # where a remark begins that follows a sentence
LISTED = re.compile(r"(; |, and |, | and | or )")
SHAPES = {
    "n": re.compile(r"\d[\d,.]*( of \d[\d,.]*)?"),
    **dict.fromkeys(
        ("shortest", "normalize", "seconds", "minutes", "hours", "days"),
        re.compile(r"-?\d[\d,.]*"),
    ),
    "year": re.compile(r"\d{4}"),
    "time": re.compile(r"\d\d:\d\d|\d{1,2}:\d\d [AP]M"),
}
NUMBERED = re.compile(r"\d[\d,.]*( [^,;]+)?")
COUNTED = re.compile(r"(\d[\d,.]*) (.+)")
# Parts of these names are how many of what, and ``{n}`` a number alone: else a part would take in
# whatever is before the fixed words.
COUNTS = {"many", "count", "blocked", "lost", "later", "new", "known", "bad", "odd"}
# Parts of these names are somebody's own words, left as they are whatever they are made of.
NAMES = {
    "course",
    "email",
    "file",
    "filename",
    "item",
    "label",
    "name",
    "publisher",
    "shell",
    "title",
    "unit",
}
NAMES |= {"shown_name", "shown_title"}
MONTHS = frozenset([*calendar.month_name[1:], *calendar.month_abbr[1:]])
QUOTES = "'\"\u2018\u2019\u201c\u201d"
DEEPEST = 4  # sentences within sentences
MOST_JOINS = 12
LONGEST_RUN = 4  # sentences of a text that are one entry together
KEPT = 20_000


@dataclass(frozen=True, slots=True)
class Entry:
    """One sentence: its fixed words, the parts between them, and what it is elsewhere."""

    fixed: tuple[str, ...]
    parts: tuple[str, ...]
    other: str

    @property
    def weight(self) -> int:
        """Return how much of the sentence is fixed; of two that fit, the heavier is meant."""
        return sum(map(len, self.fixed))

    def found_in(self, text: str) -> dict[str, str] | None:
        """Return what the parts are in a text, None where it is not made from this sentence."""
        first, *between, last = self.fixed
        if not text.startswith(first) or not text.endswith(last):
            return None
        found, at, ends = [], len(first), len(text) - len(last)
        for words in between:
            there = text.find(words, at, ends)
            if there < 0:
                return None
            found.append(text[at:there])
            at = there + len(words)
        if at > ends:
            return None
        parts = dict(zip(self.parts, [*found, text[at:ends]], strict=True))
        return parts if all(map(_fits, parts, parts.values())) else None

    def quoted(self, part: str) -> bool:
        """Say whether a part is in quotation marks: somebody's own words, left as they are."""
        before = self.fixed[self.parts.index(part)]
        return before[-1:] in QUOTES and before != ""


class Catalogue:
    """The sentences of one language, from pairs of the English and what it is there."""

    def __init__(self, pairs: Iterable[tuple[str, str]]) -> None:
        self._plain: dict[str, str] = {}
        self._first: dict[str, list[Entry]] = defaultdict(list)
        self._last: dict[str, list[Entry]] = defaultdict(list)
        self._loose: list[Entry] = []
        for english, other in pairs:
            self._add(english, other)
        for entries in [*self._first.values(), *self._last.values(), self._loose]:
            entries.sort(key=lambda entry: -entry.weight)
        self.say = lru_cache(KEPT)(self._say)
        self._whole = lru_cache(KEPT)(self._known)

    def _add(self, english: str, other: str) -> None:
        parts = PART.findall(english)
        if not parts:
            self._plain[english] = other
            return
        entry = Entry(tuple(PART.split(english)[::2]), tuple(parts), other)
        first, last = entry.fixed[0].split(" "), entry.fixed[-1].split(" ")
        if len(first) > 1:
            self._first[first[0]].append(entry)
        elif len(last) > 1:
            self._last[last[-1]].append(entry)
        else:
            self._loose.append(entry)

    def _say(self, text: str, depth: int = 0) -> str:
        """Return a text in this language; what of it is no known sentence stays as it is."""
        whole = self._whole(text, depth)
        if whole is not None:
            return whole
        pieces = [piece for piece in PIECES.split(text) if piece is not None]
        return "".join(self._runs(pieces, depth)) if len(pieces) > 1 else text

    def _runs(self, pieces: list[str], depth: int) -> Iterator[str]:
        """Yield pieces in this language, the longest runs that are one sentence together."""
        at = 0
        while at < len(pieces):
            for length in range(min(2 * LONGEST_RUN - 1, len(pieces) - at), 0, -2):
                said = self._whole("".join(pieces[at : at + length]), depth)
                if said is not None:
                    break
            yield pieces[at] if said is None else said
            yield from pieces[at + length : at + length + 1]  # the space after it
            at += length + 1

    def _known(self, text: str, depth: int) -> str | None:
        """Return a text that is one sentence, or made of one in one of the ways below. What is
        listed with semicolons is several, though the end of the last one may fit a sentence.
        """
        ways = (self._one, self._joined, self._list)
        if "; " in text:
            ways = (self._list, self._one, self._joined)
        return next((said for way in ways if (said := way(text, depth)) is not None), None)

    def _one(self, text: str, depth: int) -> str | None:
        ways = (self._counted, self._sentence, self._ended, self._begun)
        return next((said for way in ways if (said := way(text, depth)) is not None), None)

    def value(self, text: str) -> str:
        """Return a value, such as ``20 points``; titles and the like stay as they are."""
        return self._counted(text, 0) or text

    def _ended(self, text: str, depth: int) -> str | None:
        """Return a sentence that somebody has put a full stop or the like after."""
        if not text.endswith((".", ";", ":")):
            return None
        said = self._counted(text[:-1], depth) or self._sentence(text[:-1], depth)
        return None if said is None else said + text[-1]

    def _begun(self, text: str, depth: int) -> str | None:
        """Return words that are at the beginning of a sentence and so have a capital."""
        said = self._plain.get(text[:1].lower() + text[1:]) if text[:1].isupper() else None
        return said and said[0].upper() + said[1:]

    def _counted(self, text: str, depth: int) -> str | None:
        """Return a number of something."""
        counted = COUNTED.fullmatch(text)
        said = self._plain.get(counted[2]) if counted else None
        return f"{counted[1]} {said}" if counted and said else None

    def _list(self, text: str, depth: int) -> str | None:
        """Return a list of which every member is known."""
        pieces = LISTED.split(text, MOST_JOINS)
        known = [self._whole(piece, depth + 1) for piece in pieces[::2]] if depth <= DEEPEST else []
        if len(pieces) == 1 or not known or None in known:
            return None
        pieces[::2] = [each or "" for each in known]
        pieces[1::2] = [self._plain.get(each, each) for each in pieces[1::2]]
        return "".join(pieces)

    def _joined(self, text: str, depth: int) -> str | None:
        """Return a sentence with the remarks that follow it (``, two of them new``)."""
        if depth > DEEPEST:
            return None
        for join in itertools.islice(JOINS.finditer(text, 1), MOST_JOINS):
            head = self._one(text[: join.start()], depth)
            if head is not None and (rest := self._known(text[join.start() :], depth + 1)):
                return head + rest
        return None

    def _sentence(self, text: str, depth: int) -> str | None:
        if (plain := self._plain.get(text)) is not None:
            return plain
        for entry in self._candidates(text):
            if (found := entry.found_in(text)) is not None:
                fixed = PART.split(entry.other)
                fixed[1::2] = [self._part(entry, found, part, depth) for part in fixed[1::2]]
                return "".join(fixed)
        return None

    def _candidates(self, text: str) -> list[Entry]:
        """Return the sentences that a text may be made from, the heaviest first."""
        first, _, _ = text.partition(" ")
        _, _, last = text.rpartition(" ")
        found = [*self._first.get(first, ()), *self._last.get(last, ()), *self._loose]
        return sorted(found, key=lambda entry: -entry.weight)

    def _part(self, entry: Entry, found: dict[str, str], part: str, depth: int) -> str:
        text = found.get(part, "")
        # One word may as well be what somebody named a folder.
        word = " " not in text and part != "month"
        own = word or part.rstrip("0123456789") in NAMES or entry.quoted(part)
        return text if own or depth > DEEPEST else self._say(text, depth + 1)


def _fits(part: str, text: str) -> bool:
    """Say whether a part may be this text: counts are numbers, perhaps with what is counted."""
    name = part.rstrip("0123456789")
    if name == "month":
        return text in MONTHS
    shape = SHAPES.get(name) or (NUMBERED if name in COUNTS else None)
    return shape is None or shape.fullmatch(text) is not None
