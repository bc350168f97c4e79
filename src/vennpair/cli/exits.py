"""Exit codes (DESIGN 8), and the one exception by which a command ends."""

from __future__ import annotations

DONE, FINDINGS, USAGE, UNREADABLE, UNREACHABLE, NOT_ALLOWED, REFUSED = range(7)


class Stop(Exception):
    """A command ends: ``code`` and ``message`` for people and scripts, ``status`` for the shell."""

    def __init__(self, status: int, code: str, message: str, remedy: str, **facts: object) -> None:
        super().__init__(message)
        self.status, self.code, self.message, self.remedy, self.facts = (
            status,
            code,
            message,
            remedy,
            facts,
        )
