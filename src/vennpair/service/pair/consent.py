"""The one door to a shell's services: open while an instructor's consent is valid."""

from __future__ import annotations

from vennpair.gateways.platform import PlatformGateway
from vennpair.service.connect.gateways import platform_gateway
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.models import Consent, Shell

READS = (
    (
        "roster",
        "the list of members",
        "names, addresses and roles, to know which learner is which (Names and Roles)",
    ),
    (
        "columns",
        "gradebook columns and their values",
        "only to compare them with the publisher's scores (Assignment and Grade Services)",
    ),
    ("outline", "the outline", "folders and links, to see where homework is (Shell Outline)"),
)
WRITES = (
    ("columns", "gradebook columns", "one for each homework that you deploy with points"),
    ("scores", "scores", "into those columns and no others, while the relay is on"),
    (
        "outline",
        "folders, links and pages",
        "those that you deploy; nothing else is changed or removed",
    ),
)


def agreed(shell: Shell) -> bool:
    """Say whether somebody's agreement is valid."""
    return Consent.objects.filter(shell=shell, withdrawn_at=None).exists()


def shell_gateway(shell: Shell) -> PlatformGateway:
    """Return the gateway to a shell's platform.

    Raises Refused ``consent_needed`` where nobody has agreed.
    """
    if not agreed(shell):
        raise consent_needed(shell)
    return platform_gateway(shell.platform)


def consent_needed(shell: Shell) -> Refused:
    """Return the refusal that says what to agree to."""
    name = shell.label or shell.title
    return Refused(
        "consent_needed",
        f"No instructor of {name} has agreed that Venn Pair reads and writes this shell, so nothing"
        " was read or written.",
        "Read what that is under Pair, and agree there.",
    )
