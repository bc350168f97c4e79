"""How far the comparison of a pairing is, for a list of many."""

from __future__ import annotations

from typing import Literal

Standing = Literal["waiting", "comparing", "failed", "compared", "never"]
_UNDER_WAY, _IN_VAIN = {"queued", "running"}, {"failed", "waiting"}


def standing(last_job: str | None, *, asked: bool, compared: bool) -> Standing:
    """Return it from the state of the last comparison's job.

    ``asked``: one waits for its platform to have room.
    """
    if last_job in _UNDER_WAY:
        return "comparing"
    if asked:
        return "waiting"
    if last_job in _IN_VAIN:
        return "failed"
    return "compared" if compared else "never"
