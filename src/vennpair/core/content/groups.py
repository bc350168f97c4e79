"""Folders that many courses leave out or hide as a group: reviews and refreshers."""

from __future__ import annotations

import re
from typing import Literal

Treatment = Literal["keep", "hide", "leave_out"]
_REVIEW = re.compile(r"\b(review|reviews|refresher|refreshers|recap|revision|prerequisites?|warm-?ups?|optional|extra practice|before you begin)\b", re.IGNORECASE)


def group_of(title: str, kind: str) -> str:
    """Return ``review`` for a folder whose title says that it repeats or is optional, else nothing."""
    return "review" if kind == "folder" and _REVIEW.search(title) else ""
