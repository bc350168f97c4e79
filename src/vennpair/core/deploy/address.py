"""The pattern by which a publisher's items are opened, where its catalogue tells no addresses."""

from __future__ import annotations

from collections.abc import Mapping
from string import Formatter
from urllib.parse import quote, urlsplit

FIELDS = ("line_item", "course")


def by_pattern(pattern: str, fields: Mapping[str, str]) -> str:
    """Return the address of one item; values are URL-encoded."""
    return pattern.format_map({name: quote(fields[name], safe="") for name in FIELDS})


def wrong_with(pattern: str) -> str:
    """Return in a sentence what is wrong with a pattern; empty where nothing is."""
    try:
        parts = [part for part in Formatter().parse(pattern) if part[1] is not None]
    except ValueError:
        return "a brace { or } is alone"
    names = [name for _, name, _, _ in parts]
    if unknown := [name for name in names if name not in FIELDS]:
        return f"{{{unknown[0]}}} is not known; it takes {{line_item}} and {{course}}"
    if any(spec or conversion for _, _, spec, conversion in parts):
        return "a field is only a name in braces"
    if "line_item" not in names:
        return "it lacks {line_item}, so all items would open the same page"
    address = urlsplit(by_pattern(pattern, dict.fromkeys(FIELDS, "x")))
    if address.scheme not in {"http", "https"} or not address.netloc:
        return "it is not a web address"
    return "" if "{" not in urlsplit(pattern).netloc else "the site's name cannot be a field"
