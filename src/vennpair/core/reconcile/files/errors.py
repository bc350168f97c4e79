"""The refusal of a file, with the place and what to do (CONTRACTS, Refusals)."""

from __future__ import annotations


class TableError(Exception):
    """A file cannot be compared. ``code`` is one of CONTRACTS' refusals; ``line`` counts from 1."""

    def __init__(self, code: str, file: str, line: int | None, message: str, remedy: str) -> None:
        super().__init__(message)
        self.code = code
        self.file = file
        self.line = line
        self.message = message
        self.remedy = remedy
