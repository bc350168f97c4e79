"""Titles of links: renamed many at once by a pattern, shortened, and checked for those that nobody
could tell apart.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping, Sequence

LONGEST = 255  # the outline protocol's and most platforms' limit
FIELDS = ("title", "unit", "number", "category", "points")


class BadPattern(ValueError):
    """A pattern names a field that there is not."""


def renamed(pattern: str, facts: Mapping[str, str]) -> str:
    """Return the title that a pattern like ``{number}. {title}`` makes. Raises BadPattern.

    Fields are title, unit, number (from 1 in the order of the rollout), category and points.
    """

    def value(found: re.Match[str]) -> str:
        if found[1] not in FIELDS:
            raise BadPattern(f"'{{{found[1]}}}' is not a field; there are {', '.join(FIELDS)}")
        return facts.get(found[1], "")

    return (
        " ".join(re.sub(r"\{(\w*)\}", value, pattern).split())
        if pattern
        else facts.get("title", "")
    )


def shortened(title: str, longest: int = LONGEST) -> str:
    """Return a title of at most ``longest`` characters, cut after a word where one ends near, with
    an ellipsis.
    """
    if len(title) <= longest:
        return title
    cut = title[: longest - 1]
    at = cut.rfind(" ")
    return (cut[:at] if at > longest * 0.6 else cut).rstrip() + "…"


def told_apart(titles: Sequence[str]) -> set[int]:
    """Return the positions of titles that equal another, letters' case and spaces aside."""
    folded = [" ".join(title.split()).casefold() for title in titles]
    counts = Counter(folded)
    return {position for position, title in enumerate(folded) if counts[title] > 1}
