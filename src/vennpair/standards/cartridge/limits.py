"""How much a cartridge may ask of us. Every limit is a setting, and its name is in the
message.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields


@dataclass(frozen=True, slots=True)
class Limits:
    """Upper bounds on one package: counts, sizes in bytes, a ratio of unpacked to packed size, and
    what reading it may take.
    """

    members: int = 50_000
    total_bytes: int = 20_000_000_000
    xml_bytes: int = 64_000_000
    tags: int = 500_000
    ratio: int = 1_000
    depth: int = 200
    memory: int = 2_000_000_000  # while a large one is read
    seconds: int = 120  # of processor time, then

    @classmethod
    def from_environment(cls, environment: Mapping[str, str]) -> Limits:
        """Read limits from ``VENNPAIR_CARTRIDGE_MAX_<NAME>``.

        Raises ValueError on a value that is no whole number.
        """
        given = {}
        for each in fields(cls):
            if text := environment.get(setting_name(each.name)):
                given[each.name] = int(text)
        return cls(**given)


def setting_name(limit: str) -> str:
    """Return the name of the environment variable that sets a limit."""
    return f"VENNPAIR_CARTRIDGE_MAX_{limit.upper()}"
