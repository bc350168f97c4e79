"""Which of a publisher's courses is likely the right one for a shell, with the reasons."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass

GOOD_ENOUGH = 0.5
TITLE_SHARE, SECTION_SHARE, CODE_SHARE, TERM_SHARE = 0.5, 0.35, 0.15, 0.15


@dataclass(frozen=True, slots=True)
class CourseFacts:
    """What both a shell and a homework course can tell about themselves."""

    title: str
    label: str = ""
    term: str = ""


@dataclass(frozen=True, slots=True)
class Likeness:
    """How well a course fits, 0 to 1, and why, in words for a person."""

    score: float
    reasons: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Guess:
    """For the shell at ``shell`` the course at ``course``, None where none fits well enough.

    Positions in the given lists.
    """

    shell: int
    course: int | None
    reasons: tuple[str, ...] = ()


def likeness(shell: CourseFacts, course: CourseFacts) -> Likeness:
    """Compare by words of the title, section number and term.

    Nothing here decides, it only ranks.
    """
    score, reasons = 0.0, []
    ours, theirs = telling_words(shell.title), telling_words(course.title)
    if shared := ours & theirs:
        score += TITLE_SHARE * len(shared) / max(len(ours), 1)
        reasons.append("the title fits")
    here, there = section(shell.label, shell.title), section(course.label, course.title)
    if here and there:
        if here == there:
            score += SECTION_SHARE
            reasons.append(f"both are section {here}")
        else:
            reasons.append(f"section {there}, the shell is section {here}")
    if shell.label and fold(shell.label) == fold(course.label):
        score += CODE_SHARE
        reasons.append("the same code")
    if (
        shell.term
        and course.term
        and telling_words(shell.term) == telling_words(course.term)
        and fold(shell.term) == fold(course.term)
    ):
        score += TERM_SHARE
        reasons.append(f"the same term, {course.term}")
    return Likeness(round(min(score, 1.0), 2), tuple(reasons))


def match_sections(shells: Sequence[CourseFacts], courses: Sequence[CourseFacts]) -> list[Guess]:
    """Give each shell at most one course and each course to at most one shell, the best fitting
    first.

    A course whose section number is another than the shell's is never guessed.
    """
    ranked = []
    for i, shell in enumerate(shells):
        for j, course in enumerate(courses):
            here, there = section(shell.label, shell.title), section(course.label, course.title)
            like = likeness(shell, course)
            if like.score >= GOOD_ENOUGH and not (here and there and here != there):
                ranked.append((-like.score, i, j, like.reasons))
    found: dict[int, Guess] = {}
    taken: set[int] = set()
    for _, i, j, reasons in sorted(ranked):
        if i not in found and j not in taken:
            found[i] = Guess(i, j, reasons)
            taken.add(j)
    return [found.get(i, Guess(i, None)) for i in range(len(shells))]


def fold(text: str) -> str:
    """Return a text as it is searched: no accents, no case, white space as one.

    Other alphabets stay.
    """
    plain = unicodedata.normalize("NFKD", text.casefold())
    return " ".join("".join(each for each in plain if not unicodedata.combining(each)).split())


def search_words(text: str) -> list[str]:
    """Return the words that somebody searches for, folded, without the commas and dots
    around them.
    """
    return [word for part in fold(text).split() if (word := part.strip(",;.:()\"'"))]


def telling_words(text: str) -> set[str]:
    """Return the words of a title that tell it from others."""
    return {
        word
        for word in re.findall(r"\w+", fold(text))
        if not word.isdigit() and len(word) > 2 and word not in {"section", "and", "the"}
    }


def section(*texts: str) -> str:
    """Return the section number that the first of several texts names, without leading zeros."""
    for text in texts:
        if match := re.search(r"(?:section|sec\.?|[-–/·])\s*0*(\d{1,3})\b", text, re.IGNORECASE):
            return match.group(1)
    return ""
