"""How many of something, in words."""

from __future__ import annotations


def many(count: int, one: str, more: str = "") -> str:
    """Return ``1 link`` or ``3 links``.

    ``more`` says how it goes where an s at the end does not do: ``1 entry is``, ``3 entries are``.
    """
    return f"1 {one}" if count == 1 else f"{count} {more or f'{one}s'}"
