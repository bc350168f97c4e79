"""What pairing does where a lower app asks."""

from __future__ import annotations

from vennpair.service.operations.kinds import register
from vennpair.service.pair.first_steps_kind import FirstStepsKind
from vennpair.service.pair.tool_kind import ToolKind


def listen() -> None:
    """Register the operations of pairing."""
    register(FirstStepsKind(), ToolKind())
