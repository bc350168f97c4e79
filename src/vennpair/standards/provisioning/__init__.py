"""The course provisioning protocol (docs/course-provisioning.md): titles, making and copying
homework courses, accounts.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

Json = dict[str, Any]

SCOPE = "urn:vennpair:scope:provisioning"
FEATURES = ("titles", "create", "copy", "sections", "sharing", "accounts")
ACCOUNT_CLAIM = "urn:vennpair:claim:account"


@dataclass(frozen=True, slots=True)
class Title:
    """A book or product that the institution has adopted."""

    id: str
    title: str
    author: str = ""
    isbn: str = ""
    edition: str = ""


@dataclass(frozen=True, slots=True)
class Account:
    """Somebody's account at the publisher; ``verified`` where the publisher saw them sign in."""

    id: str
    name: str
    email: str = ""


def read_features(document: object) -> tuple[str, ...]:
    """Read what a publisher offers. Raises ValueError."""
    offered = document.get("features") if isinstance(document, dict) else None
    if not isinstance(offered, list):
        raise ValueError("the description holds no list 'features'")
    return tuple(name for name in FEATURES if name in offered)


def read_titles(document: object) -> list[Title]:
    """Read the adopted titles. Raises ValueError."""
    rows = document.get("titles") if isinstance(document, dict) else None
    if not isinstance(rows, list):
        raise ValueError("the answer holds no list 'titles'")
    return [
        Title(
            _text(row, "id"),
            _text(row, "title"),
            *(str(row.get(name) or "") for name in ("author", "isbn", "edition")),
        )
        for row in rows
    ]


def read_made(document: object) -> str:
    """Return the OneRoster class id of a course that was made. Raises ValueError."""
    return _text(document, "class")


def read_account(document: object) -> Account:
    """Read an account. Raises ValueError."""
    name = str(document.get("name") or "") if isinstance(document, dict) else ""
    return Account(
        _text(document, "id"),
        name,
        str(document.get("email") or "") if isinstance(document, dict) else "",
    )


def _text(document: object, name: str) -> str:
    value = document.get(name) if isinstance(document, dict) else None
    if not isinstance(value, str) or not value:
        raise ValueError(f"the answer lacks its field '{name}'")
    return value
