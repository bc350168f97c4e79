"""Whether Venn Pair is turned on in a shell, where in the navigation, and for whom (Shell Outline
protocol).
"""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Any

from vennpair.core.pair.states import count, they
from vennpair.service.connect.models import User
from vennpair.service.kernel.audit.trail import record
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing, Shell
from vennpair.service.pair.queries import require_instructor
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.outline import ShellTool

BY_HAND = (
    "Open the shell's settings on the course platform, where tools or the navigation are chosen.",
    "Turn Venn Pair on, for instructors only: learners need just the homework links.",
    "Open Venn Pair from the shell once; this page then shows the time of that launch.",
)


@dataclass(frozen=True, slots=True)
class ToolState:
    """``offered`` is false where the platform has no outline service.

    Then ``by_hand`` says what the person does.
    """

    offered: bool
    tool: ShellTool | None
    links: int
    by_hand: tuple[str, ...] = ()


def look_at_tool(shell: Shell) -> ToolState:
    """Return the tool's place in a shell and how many links need it. Raises OutsideError,
    Refused.
    """
    current = shell.pairings.exclude(state=Pairing.State.ENDED)
    links = sum(each.placements.placed().count() for each in current)  # one, at most
    if not shell.outline_url or v.SCOPE_OUTLINE not in shell.scopes:
        return ToolState(False, None, links, BY_HAND)
    return ToolState(True, shell_gateway(shell).tool(shell.outline_url), links)


def warning(state: ToolState, changes: dict[str, Any]) -> str:
    """Say what a change would break, or nothing."""
    if changes.get("on") is False and state.links:
        return (
            f"{count(state.links, 'homework link')} in this shell {they(state.links, 'goes', 'go')}"
            " dead while Venn Pair is off; scores that the publisher reports still reach the"
            " gradebook."
        )
    if changes.get("audience") == "everyone":
        return "Learners will see Venn Pair in the navigation, though it has nothing for them."
    return ""


def change_tool(shell: Shell, changes: dict[str, Any], etag: str, actor: User) -> ToolState:
    """Change it at the platform; a change on what somebody altered meanwhile is refused there.

    Raises OutsideError, Refused.
    """
    require_instructor(actor, shell)
    before = look_at_tool(shell)
    if not before.offered or before.tool is None:
        raise Refused(
            "no_outline",
            "The platform offers no service for this; it is done by hand there.",
            " ".join(BY_HAND),
        )
    after = shell_gateway(shell).change_tool(
        shell.outline_url, uuid.uuid4().hex, etag or before.tool.etag, **changes
    )
    words = ", ".join(f"{name} {value}" for name, value in sorted(changes.items()))
    known = ("on", "navigation", "position", "audience")
    record(
        "tool.changed",
        f"Venn Pair in {shell.label or shell.title} was changed: {words}.",
        institution=shell.platform.institution,
        actor=actor,
        before={name: getattr(before.tool, name) for name in known},
        after={name: getattr(after, name) for name in known},
    )
    return ToolState(True, after, before.links)
