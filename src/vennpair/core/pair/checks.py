"""One readiness check, and the words that several share."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

State = Literal["ok", "warn", "fail"]
SHOWN = 5


@dataclass(frozen=True, slots=True)
class Check:
    """One check: ``ok``, ``warn`` (works, but look) or ``fail`` (must be mended first)."""

    code: str
    state: State
    message: str
    remedy: str = ""


def named(names: Sequence[str]) -> str:
    """Return the first few names and how many more there are."""
    return ", ".join(names[:SHOWN]) + (
        f" and {len(names) - SHOWN} more" if len(names) > SHOWN else ""
    )
