"""Common Cartridge 1.0 to 1.3 and Thin 1.2/1.3: reading, checking and writing packages.

``read_cartridge`` is the way in; it streams: binaries are never unpacked or held in memory.
"""

from vennpair.standards.cartridge.findings import Finding, UnusableCartridge
from vennpair.standards.cartridge.limits import Limits
from vennpair.standards.cartridge.model import Cartridge, OutlineRow, Resource
from vennpair.standards.cartridge.package import Package, UnreadableMember, open_package
from vennpair.standards.cartridge.reader import read_cartridge, read_package

__all__ = [
    "Cartridge",
    "Finding",
    "Limits",
    "OutlineRow",
    "Package",
    "Resource",
    "UnreadableMember",
    "UnusableCartridge",
    "open_package",
    "read_cartridge",
    "read_package",
]
