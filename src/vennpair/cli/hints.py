"""Which command does what a remedy of the service says, as the service speaks of pages only."""

from __future__ import annotations

import argparse
from shlex import quote

from vennpair.client import Refusal

# By the code of a refusal, of a check of the readiness, or of a notice of a plan.
COMMANDS = {
    "not_signed_in": "vennpair sign-in --user NAME",
    "scope_missing": "vennpair token new NAME --scope SCOPE",
    "account_needed": "vennpair account link PUBLISHER",
    "role_publisher": "vennpair account link PUBLISHER",
    "shell_paired": "vennpair pair SHELL --end",
    "consent_needed": "vennpair consent SHELL",
    "consent": "vennpair consent SHELL --agree",
    "tool": "vennpair tool SHELL --on",
    "compared": "vennpair reconcile SHELL",
    "not_read": "vennpair cartridge import SHELL",
    "not_a_link": "vennpair cartridge import SHELL",
    "no_outline": "vennpair cartridge write SHELL FILE.imscc",
}


def command_for(code: str, shell: str = "") -> str:
    """Return the command for a code, ready to be pasted where the shell is known; else empty."""
    return COMMANDS.get(code, "").replace("SHELL", quote(shell) if shell else "SHELL")


def do(code: str, remedy: str, shell: str = "") -> str:
    """Return a remedy with the command that does it, where there is one."""
    command = command_for(code, shell)
    return f"{remedy} Command: {command}" if command and remedy else remedy


def shell_of(args: argparse.Namespace) -> str:
    """Return the shell that a command line names, empty where it names none or several."""
    named = getattr(args, "shell", "")
    return named if isinstance(named, str) else ""


def do_of(error: Refusal, args: argparse.Namespace) -> str:
    """Return what to do about a refusal."""
    return do(error.code, error.remedy, shell_of(args))
