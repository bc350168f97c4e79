"""The levels of findings (CONTRACTS), and which remedies each kind of cell offers (DESIGN 7)."""

from __future__ import annotations

from typing import Literal

Level = Literal["error", "warning", "note"]

_ERRORS = {"clash", "refused", "column_missing", "points_differ", "item_gone", "ambiguous"}
_WARNINGS = {
    "differ",
    "behind",
    "cleared",
    "unsent",
    "column_extra",
    "due_differs",
    "never_opened",
    "publisher_only",
    "title_ambiguous",
    "points_missing",
}

# The first remedy is the default; an empty tuple means there is nothing to do.
REMEDIES: dict[str, tuple[str, ...]] = {
    "unsent": ("send",),
    "cleared": ("send", "leave"),
    "behind": ("send",),
    "edited": ("keep", "restore"),
    "clash": ("choose",),
    "differ": ("choose",),
    "gradebook_only": ("keep", "clear"),
    "withdrawn": ("keep", "clear"),
    "refused": ("send",),
    "held": (),
}


def level_of(code: str) -> Level:
    """Return the level of a finding by its code."""
    if code in _ERRORS:
        return "error"
    return "warning" if code in _WARNINGS else "note"
