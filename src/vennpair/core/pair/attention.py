"""What needs attention in a shell, in a few words."""

from __future__ import annotations


def attention(state: str | None, relay_on: bool, apart: int, *, copied: bool = False) -> str:
    """Return what somebody should look at first, or nothing.

    ``state`` is the current pairing's, None where there is none; ``apart`` is how many scores the
    last comparison found that do not agree; ``copied`` says that it came from another shell.
    """
    if state is None:
        return (
            "copied from another course: its homework links do not open yet"
            if copied
            else "not paired yet"
        )
    if state == "draft":
        return "not ready yet: see its readiness"
    if state == "ready":
        return "nothing deployed yet"
    if state == "paused":
        return "paused: scores are kept and wait"
    if not relay_on:
        return "the relay is off: no score is sent"
    return (
        f"{apart} score{'' if apart == 1 else 's'} did not agree when last compared"
        if apart
        else ""
    )
