"""Which of a publisher's courses is likely the right one for a shell, with the reasons."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass


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


def likeness(shell: CourseFacts, course: CourseFacts) -> Likeness:
    """Compare by words of the title, section number and term; nothing here decides, it only ranks."""
    score, reasons = 0.0, []
    ours, theirs = _words(shell.title), _words(course.title)
    if shared := ours & theirs:
        score += 0.5 * len(shared) / max(len(ours), 1)
        reasons.append("the title fits")
    section, other = _section(shell), _section(course)
    if section and other:
        if section == other:
            score += 0.35
            reasons.append(f"both are section {section}")
        else:
            reasons.append(f"section {other}, the shell is section {section}")
    if shell.term and course.term and _words(shell.term) == _words(course.term):
        score += 0.15
        reasons.append(f"the same term, {course.term}")
    return Likeness(round(min(score, 1.0), 2), tuple(reasons))


def _words(text: str) -> set[str]:
    folded = unicodedata.normalize("NFKD", text.casefold())
    return {word for word in re.findall(r"\w+", folded) if not word.isdigit() and len(word) > 2 and word not in {"section", "and", "the"}}


def _section(facts: CourseFacts) -> str:
    """Return a section number from the label or title, without leading zeros."""
    for text in (facts.label, facts.title):
        if match := re.search(r"(?:section|sec\.?|[-–/·])\s*0*(\d{1,3})\b", text, re.IGNORECASE):
            return match.group(1)
    return ""
