"""The levels of findings (CONTRACTS)."""

from __future__ import annotations

from vennpair.core.levels import Level

_ERRORS = {
    "clash",
    "refused",
    "unread",
    "column_missing",
    "points_differ",
    "item_gone",
    "ambiguous",
}
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


URGENT = ("error", "warning")  # a note asks nothing of anybody


def level_of(code: str) -> Level:
    """Return the level of a finding by its code."""
    if code in _ERRORS:
        return "error"
    return "warning" if code in _WARNINGS else "note"
