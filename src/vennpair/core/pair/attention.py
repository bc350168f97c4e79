"""What needs attention in a shell, in a few words."""

from __future__ import annotations


def attention(state: str | None, relay_on: bool, apart: int) -> str:
    """Return what somebody should look at first, or nothing.

    ``state`` is the current pairing's, None where there is none; ``apart`` is how many scores the
    last comparison found that do not agree.
    """
    if state is None:
        return "not paired yet"
    if state == "ready":
        return "nothing deployed yet"
    if not relay_on:
        return "the relay is off: no score is sent"
    return f"{apart} score{'' if apart == 1 else 's'} did not agree when last compared" if apart else ""
