"""A cartridge of many resources: our inspection against zipfile and lxml alone on the same XML
members.

Usage: python -m bench.cartridge [--resources 5000] [--megabytes 200] [--rounds 5]
"""

from __future__ import annotations

import argparse
import resource
import statistics
import tempfile
import time
import zipfile
from collections.abc import Callable
from pathlib import Path

from lxml import etree

from vennpair.standards.cartridge import read_cartridge
from vennpair.standards.cartridge.report import inspection
from vennpair.standards.cartridge.writer import Entry, write_cartridge


def make(path: Path, resources: int, megabytes: int) -> None:
    """Write a package of LTI links in folders, with stored binaries beside them."""
    entries = []
    for number in range(resources):
        if number % 50 == 0:
            entries.append(Entry(f"f{number}", f"Unit {number // 50}", "folder"))
        entries.append(
            Entry(
                f"e{number}",
                f"Practice set {number}",
                "lti_link",
                1,
                url=f"https://tool.example/{number}",
                custom={"item": str(number), "note": "x" * 400},
            )
        )
    with path.open("wb") as target:
        write_cartridge(target, "bench", "Bench", "en", entries)
    with zipfile.ZipFile(path, "a") as archive:
        for number in range(megabytes // 10):
            archive.writestr(f"media/{number}.bin", b"\x01" * 10_000_000)


def floor(path: Path) -> None:
    """Read and parse the same XML members with zipfile and lxml alone."""
    with zipfile.ZipFile(path) as archive:
        for info in archive.infolist():
            if info.filename.endswith(".xml"):
                etree.fromstring(archive.read(info))


def ours(path: Path) -> None:
    """Inspect the package, findings and all."""
    inspection(read_cartridge(path))


def timed(run: Callable[[Path], None], path: Path) -> float:
    """Return the seconds of one run."""
    began = time.perf_counter()
    run(path)
    return time.perf_counter() - began


def main() -> None:
    """Run."""
    parser = argparse.ArgumentParser()
    for name, default in (("resources", 5000), ("megabytes", 200), ("rounds", 5)):
        parser.add_argument(f"--{name}", type=int, default=default)
    args = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "bench.imscc"
        make(path, args.resources, args.megabytes)
        before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        pairs = [(timed(floor, path), timed(ours, path)) for _ in range(args.rounds)]
        grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) / 1024
    ratio = statistics.median(mine / base for base, mine in pairs)
    print(
        f"{args.resources} resources, {args.megabytes} MB:"
        f" {statistics.median(mine for _, mine in pairs):.2f} s, {ratio:.2f} times zipfile and lxml"
        f" alone; peak memory grew {grown:.0f} MB"
    )


if __name__ == "__main__":
    main()
