"""What can be wrong with a cartridge: the codes, their levels, and the exception for an unusable
file.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Level = Literal["error", "warning", "note"]

LEVELS: dict[str, Level] = {
    "not_a_zip": "error",
    "no_manifest": "error",
    "bad_xml": "error",
    "unsafe_xml": "error",
    "unsafe_path": "error",
    "too_large": "error",
    "encrypted": "error",
    "duplicate_member": "error",
    "unknown_version": "warning",
    "missing_file": "error",
    "missing_resource": "error",
    "duplicate_identifier": "error",
    "untitled": "warning",
    "duplicate_title": "warning",
    "insecure_launch": "warning",
    "unknown_tool": "warning",
    "unsupported_resource": "warning",
    "empty": "warning",
}


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing that is wrong: where, what it means for the reader, and what to do."""

    code: str
    where: str
    message: str
    remedy: str

    @property
    def level(self) -> Level:
        """Return the level that belongs to the code."""
        return LEVELS[self.code]


class UnusableCartridge(Exception):
    """The file cannot be used at all; ``finding`` says why. Nothing of it may be stored."""

    def __init__(self, code: str, where: str, message: str, remedy: str) -> None:
        super().__init__(message)
        self.finding = Finding(code, where, message, remedy)
