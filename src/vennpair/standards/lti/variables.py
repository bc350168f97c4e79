"""Custom parameters with substitution variables (LTI Core 1.3, Appendix B and 5.4.6), both
roles.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from urllib.parse import quote, unquote

# What we know as a platform; 'variables' of our configuration lists these names.
KNOWN = (
    "User.id",
    "Person.name.full",
    "Person.name.given",
    "Person.name.family",
    "Person.email.primary",
    "Person.sourcedId",
    "Context.id",
    "Context.title",
    "Context.label",
    "Context.timeZone",
    "ResourceLink.id",
    "ResourceLink.title",
    "Context.id.history",
    "ResourceLink.id.history",
)


def substitute(custom: Mapping[str, str], values: Mapping[str, str]) -> dict[str, str]:
    """Replace each value that is a known variable.

    An unknown one stays as it is (LTI Core 1.3, 5.4.6.1).
    """
    return {
        name: values.get(text[1:], text) if text.startswith("$") else text
        for name, text in custom.items()
    }


def resolved(custom: Mapping[str, str], name: str) -> str:
    """Return a custom parameter, or nothing where the sender left its variable unreplaced."""
    text = custom.get(name, "")
    return "" if text.startswith("$") else text


def history(custom: Mapping[str, str], name: str) -> tuple[str, ...]:
    """Return the ids of a ``.history`` variable, the most recent first.

    They come URL-encoded and separated by commas, as an id may hold a comma (LTI Core 1.3,
    Appendix B: Context.id.history).
    """
    return tuple(
        unquote(part.strip()) for part in resolved(custom, name).split(",") if part.strip()
    )


def written_history(ids: Iterable[str]) -> str:
    """Return the value of a ``.history`` variable for ids, the most recent first."""
    return ",".join(quote(each, safe="") for each in ids)
