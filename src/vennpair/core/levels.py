"""How much a finding matters, of whatever step: an error keeps something from being right, a
warning may, a note is for whoever wants to know (CONTRACTS).
"""

from __future__ import annotations

from typing import Literal

Level = Literal["error", "warning", "note"]
