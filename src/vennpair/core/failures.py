"""The three kinds of failure of an outside call, each ending in a state that a person can see."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class FailureKind(StrEnum):
    """What can be done about a failed call."""

    LATER = "later"  # try again automatically
    NEVER = "never"  # will not work as it is
    SETTING = "setting"  # somebody must change a setting first


@dataclass(frozen=True, slots=True)
class Failure:
    """A failed outside call: its kind, a stable code, what happened and what to do.

    ``status`` is HTTP's, where there was one.
    """

    kind: FailureKind
    code: str
    message: str
    remedy: str
    retry_after: float | None = None
    status: int = 0


def failure_of_status(
    status: int, who: str, words: str = "", retry_after: float | None = None
) -> Failure:
    """Return what an HTTP status of an outside system means.

    ``who`` names the system, ``words`` its reason.
    """
    said = f" It said: {words}" if words else ""
    if status in {401, 403}:
        return Failure(
            FailureKind.SETTING,
            "not_allowed",
            f"{who} does not let Venn Pair do this (HTTP {status}).{said}",
            f"Ask an administrator to check the scopes that {who} grants.",
            status=status,
        )
    if status == 404:
        return Failure(
            FailureKind.NEVER,
            "gone",
            f"{who} no longer has what this was meant for (HTTP 404).{said}",
            "Compare the pairing and place the item again if it is still wanted.",
        )
    if status == 409:
        return Failure(
            FailureKind.NEVER,
            "stale",
            f"{who} already holds something newer (HTTP 409).{said}",
            "Compare the pairing to see which value is there.",
        )
    if status == 412:
        return Failure(
            FailureKind.NEVER,
            "stale",
            f"Somebody changed it at {who} in the meantime (HTTP 412).{said}",
            "Look at it again, then change it.",
        )
    if status == 429:
        return Failure(
            FailureKind.LATER,
            "busy",
            f"{who} asks for a pause (HTTP 429).{said}",
            "Nothing to do; it is retried automatically.",
            retry_after,
        )
    if status in {408, 425} or status >= 500:
        return Failure(
            FailureKind.LATER,
            "down",
            f"{who} cannot answer at the moment (HTTP {status}).{said}",
            "Nothing to do; it is retried automatically.",
            retry_after,
        )
    return Failure(
        FailureKind.NEVER,
        "refused",
        f"{who} refused it (HTTP {status}).{said}",
        "Read what it said; if it stays unclear, send it to the administrator.",
    )
