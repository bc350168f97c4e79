"""One step of a connection check: what was tried, how it ended, and whose side must act."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError

State = Literal["ok", "fail", "skip"]


@dataclass(frozen=True, slots=True)
class Handshake:
    """``side`` names who must act: ``ours``, ``theirs``, ``both``, or nobody where it works."""

    step: str
    state: State
    message: str
    remedy: str = ""
    side: str = ""


def handshake(step: str, attempt: Callable[[], str], *, theirs: str = "") -> Handshake:
    """Try one step; ``attempt`` returns what to say when it works.

    ``theirs`` is the remedy where they must act.
    """
    try:
        return Handshake(step, "ok", attempt())
    except OutsideError as error:
        failure = error.failure
        return Handshake(step, "fail", failure.message, theirs or failure.remedy, _side(failure))


def skipped(step: str, why: str, remedy: str = "", side: str = "") -> Handshake:
    """Return a step that could not be tried."""
    return Handshake(step, "skip", why, remedy, side)


def as_failure(message: str, remedy: str, code: str = "refused") -> OutsideError:
    """Return a failure found by looking at an answer."""
    return OutsideError(Failure(FailureKind.SETTING, code, message, remedy))


def _side(failure: Failure) -> str:
    """A refusal is about values that both sides hold; silence and nonsense are theirs."""
    return "both" if failure.code in {"not_allowed", "refused", "no_token"} else "theirs"
