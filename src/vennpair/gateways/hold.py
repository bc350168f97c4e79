"""The hold: while an operator keeps outgoing calls back, none is made, whoever would make it, but
for public keys and a sign-in: by these those who call us are recognized, and nothing is told.

The service says how to ask (``ask_with``); without it, as for the gateways alone, nothing is held.
"""

from __future__ import annotations

from collections.abc import Callable

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.errors import OutsideError

HELD = "held"
AGAIN_SECONDS = 30.0
_ask: Callable[[], str] = str


def ask_with(ask: Callable[[], str]) -> None:
    """Ask ``ask`` before each call; it answers why calls are kept back, or nothing."""
    global _ask
    _ask = ask


def why_held() -> str:
    """Return why outgoing calls are kept back, empty where they are not."""
    return _ask()


def require_free(who: str) -> None:
    """Let a call to ``who`` be made. Raises OutsideError ``held`` while calls are kept back."""
    if why := why_held():
        raise OutsideError(
            Failure(
                FailureKind.LATER,
                HELD,
                f"{who} is not asked while Venn Pair is on hold: {why}",
                "Nothing is lost; it goes on when the operator ends the hold.",
                AGAIN_SECONDS,
            )
        )
