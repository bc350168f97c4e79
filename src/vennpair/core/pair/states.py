"""The life of a pairing."""

from __future__ import annotations

_NEXT = {
    "draft": {"ready", "ended"},
    "ready": {"live", "draft", "ended"},
    "live": {"paused", "ended"},
    "paused": {"live", "ended"},
    "ended": {"paused"},
}


def may_become(state: str, target: str) -> bool:
    """Say whether a pairing in ``state`` may go to ``target``."""
    return target in _NEXT[state]


def relays(state: str) -> bool:
    """Say whether scores are sent in this state; in all others they are kept and wait."""
    return state == "live"
