"""Texts from outside, disarmed for spreadsheets; apart from ``sheets.py``, which takes long to
load.
"""

from __future__ import annotations

import re

NUMBER = re.compile(r"-?[0-9]+(?:\.[0-9]+)?")
# Full-width ones too: some spreadsheets take them for what they look like.
_STARTS_FORMULA = ("=", "+", "-", "@", "\t", "\r", "\uff1d", "\uff0b", "\uff0d", "\uff20")


def disarmed(text: str) -> str:
    """Return a text that no spreadsheet takes for a formula: an apostrophe before what begins like
    one.
    """
    return "'" + text if text.startswith(_STARTS_FORMULA) and not NUMBER.fullmatch(text) else text
