"""What a comparison found, in the words of somebody who looks after a gradebook."""

from __future__ import annotations

# By the kind of a finding (CONTRACTS): one, and more of them; ``scaled`` are those of the edited
# that only the points of their column changed.
_FOUND = {
    "clash": ("score changed on both sides", "scores changed on both sides"),
    "refused": ("score refused by the platform", "scores refused by the platform"),
    "unread": ("score not read at the publisher", "scores not read at the publisher"),
    "behind": (
        "newer score that never reached the gradebook",
        "newer scores that never reached the gradebook",
    ),
    "unsent": ("score never sent", "scores never sent"),
    "differ": ("score that differs", "scores that differ"),
    "cleared": ("score emptied in the gradebook", "scores emptied in the gradebook"),
    "edited": ("score changed in the gradebook", "scores changed in the gradebook"),
    "scaled": ("score that counts for another share", "scores that count for another share"),
    "gradebook_only": ("score only in the gradebook", "scores only in the gradebook"),
    "withdrawn": ("score that the publisher withdrew", "scores that the publisher withdrew"),
    "column_missing": ("column that is gone", "columns that are gone"),
    "points_differ": ("column with other points", "columns with other points"),
    "due_differs": ("column with another due date", "columns with another due date"),
    "column_extra": ("column that no link claims", "columns that no link claims"),
    "title_ambiguous": ("title of two columns", "titles of two columns"),
    "points_missing": ("column without known points", "columns without known points"),
    "never_opened": ("link that nobody has opened", "links that nobody has opened"),
    "item_gone": (
        "item that the publisher no longer has",
        "items that the publisher no longer has",
    ),
    "ambiguous": ("learner who may be several", "learners who may be several"),
    "publisher_only": ("learner only at the publisher", "learners only at the publisher"),
    "shell_only": ("learner only in the shell", "learners only in the shell"),
}


def found(kind: str, count: int) -> str:
    """Return ``3 scores never sent``; a kind without words of its own is named as it is called."""
    one, more = _FOUND.get(kind, (kind.replace("_", " "),) * 2)
    return f"{count} {one if count == 1 else more}"
