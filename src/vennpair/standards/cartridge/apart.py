"""Reads a large package in a process of its own, bounded in memory and time: a package that asks
for more ends that process, and never the worker with all that it has in hand.
"""

from __future__ import annotations

import pickle
import resource
import subprocess
import sys
from pathlib import Path

from vennpair.standards.cartridge.findings import Finding, UnusableCartridge
from vennpair.standards.cartridge.limits import Limits, setting_name
from vennpair.standards.cartridge.model import Cartridge
from vennpair.standards.cartridge.package import MANIFEST, Package
from vennpair.standards.cartridge.reader import read_cartridge, read_package

HEAVY = 4_000_000  # bytes of XML from which on a process of its own is worth its start
OUT_OF_MEMORY = 3


def read_bounded(
    path: Path, package: Package, limits: Limits, known_hosts: frozenset[str]
) -> Cartridge:
    """Read a package that is open already, and lies at ``path``.

    Raises UnusableCartridge, ``too_large`` also where it takes too much memory or time.
    """
    if package.xml_bytes() < HEAVY:
        return read_package(package, limits, known_hosts)
    asked = pickle.dumps((path, limits, known_hosts))
    command = [sys.executable, "-m", __name__]
    try:
        done = subprocess.run(command, input=asked, capture_output=True, timeout=2 * limits.seconds)
    except subprocess.TimeoutExpired:
        raise _too_heavy(f"{limits.seconds} seconds", "seconds") from None
    if done.returncode == OUT_OF_MEMORY:
        raise _too_heavy(f"{limits.memory:,} bytes of memory", "memory")
    if done.returncode < 0:  # ended by the system, as its time was over
        raise _too_heavy(f"{limits.seconds} seconds", "seconds")
    if done.returncode:
        raise RuntimeError(f"reading apart failed: {done.stderr.decode(errors='replace')[-2000:]}")
    found: Cartridge | Finding = pickle.loads(done.stdout)  # noqa: S301 - what our own code wrote
    if isinstance(found, Finding):
        raise UnusableCartridge(found.code, found.where, found.message, found.remedy)
    return found


def _too_heavy(what: str, limit: str) -> UnusableCartridge:
    return UnusableCartridge(
        "too_large",
        MANIFEST,
        f"Reading this package takes more than {what}.",
        f"Ask for a smaller package, or raise {setting_name(limit)}.",
    )


def main() -> None:
    """Read what standard input names, within its limits; write what was found, or the finding."""
    path, limits, hosts = pickle.load(sys.stdin.buffer)  # noqa: S301 - from the process above
    resource.setrlimit(resource.RLIMIT_AS, (limits.memory, limits.memory))
    resource.setrlimit(resource.RLIMIT_CPU, (limits.seconds, limits.seconds))
    try:
        found: Cartridge | Finding = read_cartridge(path, limits, hosts)
        answer = pickle.dumps(found)
    except UnusableCartridge as error:
        answer = pickle.dumps(error.finding)
    except MemoryError:
        sys.exit(OUT_OF_MEMORY)
    sys.stdout.buffer.write(answer)


if __name__ == "__main__":
    main()
