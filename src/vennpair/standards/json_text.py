"""JSON from other systems, as far as a database and a screen can take it."""

from __future__ import annotations

import json
from typing import Any


def read_json(text: bytes | str, **how: Any) -> Any:
    """Return the document. Raises ValueError where it is none, nests without end, or holds a text
    with a null character or half a character (a lone surrogate, RFC 8259, 8.2).
    """
    raw = text.encode() if isinstance(text, str) else text
    try:
        document = json.loads(raw, **how)
    except RecursionError:
        raise ValueError("it nests without end") from None
    if b"\\u" in raw.lower():  # only an escape can bring one into a document that is UTF-8
        _check(document)
    return document


def _check(document: Any) -> None:
    """Look at every text of a document, whose depth the reader has bounded."""
    left = [document]
    while left:
        each = left.pop()
        if isinstance(each, str):
            if "\x00" in each:
                raise ValueError("a text holds a null character")
            try:
                each.encode()
            except UnicodeEncodeError:
                raise ValueError("a text holds half a character") from None
        elif isinstance(each, dict):
            left += [*each.keys(), *each.values()]
        elif isinstance(each, list):
            left += each
