"""Entries that are treated as a group: reviews and refreshers, and what is in no outline."""

from __future__ import annotations

import posixpath
import re
from typing import Literal

from vennpair.standards.cartridge import Cartridge, OutlineRow

REVIEW, BESIDE = "review", "beside"
BESIDE_KEY, BESIDE_TITLE = "beside-the-outline", "Beside the outline"
Treatment = Literal["keep", "hide", "leave_out"]
_REVIEW = re.compile(
    r"\b(review|reviews|refresher|refreshers|recap|revision|prerequisites?|warm-?ups?|optional|extra"
    r" practice|before you begin)\b",
    re.IGNORECASE,
)


def group_of(title: str, kind: str) -> str:
    """Return ``review`` for a folder whose title says that it repeats or is optional, else
    nothing.
    """
    return REVIEW if kind == "folder" and _REVIEW.search(title) else ""


def beside_the_outline(cartridge: Cartridge) -> list[OutlineRow]:
    """Return the resources that no outline points to as rows of a folder of their own: to be
    chosen, never brought in unasked.
    """
    loose = [each for each in cartridge.loose if each.kind != "other"]
    if not loose:
        return []
    rows = [
        OutlineRow(
            f"loose-{each.id}",
            each.descriptor.title or posixpath.basename(each.href or next(iter(each.files), "")),
            each.kind,
            1,
            each.audience,
            each,
            each.id,
        )
        for each in loose
    ]
    return [OutlineRow(BESIDE_KEY, BESIDE_TITLE, "folder", 0), *rows]
