"""Where each field of a CSV is in its text, so that some can be changed and every other
character stays as it was.
"""

from __future__ import annotations

import codecs
from collections.abc import Mapping
from dataclasses import dataclass

Place = tuple[int, int]  # the line a row begins on, counted from 1, and the field, counted from 0

_MARKED = {"utf-8-sig", "utf-16"}  # encodings that are told by their mark


@dataclass(frozen=True, slots=True)
class Encoded:
    """A text with how it was encoded."""

    text: str
    encoding: str
    mark: bytes

    def bytes(self) -> bytes:
        """Return it encoded as it was, its byte-order mark included. Raises UnicodeEncodeError."""
        return self.mark + self.text.encode(self.encoding)


def decoded(data: bytes, encoding: str = "") -> Encoded:
    """Decode as ``text.decode`` does, remembering how; line ends stay as they are.

    A mark tells the encoding only where no other one is named: the reader takes that then, whatever
    the bytes begin with.
    """
    if encoding and codecs.lookup(encoding).name not in _MARKED:
        return Encoded(data.decode(encoding), encoding, b"")
    for mark, name in (
        (codecs.BOM_UTF8, "utf-8"),
        (codecs.BOM_UTF16_LE, "utf-16-le"),
        (codecs.BOM_UTF16_BE, "utf-16-be"),
    ):
        if data.startswith(mark):
            return Encoded(data[len(mark) :].decode(name), name, mark)
    return Encoded(data.decode(), "utf-8", b"")


def spans(text: str, separator: str) -> dict[Place, tuple[int, int]]:
    """Return where each field begins and ends, its quotation marks included (RFC 4180)."""
    found: dict[Place, tuple[int, int]] = {}
    line, row, field, start, quoted, at = 1, 1, 0, 0, False, 0
    while at <= len(text):
        character = text[at] if at < len(text) else ""
        if quoted:
            if character == '"':
                quoted = text[at + 1 : at + 2] == '"'
                at += quoted
            elif character in {"\n", "\r", ""}:
                line += character == "\n" or (character == "\r" and text[at + 1 : at + 2] != "\n")
        elif character == '"' and at == start:
            quoted = True
        elif character == separator:
            found[row, field] = (start, at)
            field, start = field + 1, at + 1
        elif character in {"\n", "\r", ""}:
            found[row, field] = (start, at)
            at += text[at : at + 2] == "\r\n"
            line += 1
            row, field, start = line, 0, at + 1
        at += 1
    return found


def replaced(text: str, separator: str, changes: Mapping[Place, str]) -> str:
    """Return the text with some fields changed. A field that was quoted stays so; a new one is
    quoted where it must be.

    Raises KeyError for a place that the text does not have.
    """
    where = spans(text, separator)
    for place in sorted(changes, key=lambda each: where[each], reverse=True):
        start, end = where[place]
        text = text[:start] + _quoted(changes[place], separator, was=text[start:end]) + text[end:]
    return text


def _quoted(value: str, separator: str, was: str) -> str:
    if was.startswith('"') or any(mark in value for mark in (separator, '"', "\n", "\r")):
        return '"' + value.replace('"', '""') + '"'
    return value
