"""Fuzz the cartridge reader: packages damaged in zip, manifest and descriptors are read or refused,
never anything else.

Usage: python -m bench.fuzz [--minutes 60] [--seed 1] [--keep FOLDER]   (a package that breaks us is
  kept there)
"""

from __future__ import annotations

import argparse
import io
import random
import resource
import time
import zipfile
from pathlib import Path

from vennpair.standards.cartridge import Limits, UnusableCartridge, read_cartridge
from vennpair.standards.cartridge.report import inspection

EXAMPLES = Path(__file__).parents[1] / "tests" / "examples" / "cartridge"
LIMITS = Limits(members=2_000, total_bytes=50_000_000, xml_bytes=2_000_000)
SLOW_SECONDS = 5.0
MORSELS = (
    *(
        b"<",
        b">",
        b"&",
        b'"',
        b"]]>",
        b"<![CDATA[",
        b"<!DOCTYPE a>",
        b"<!--",
        b"<?x?>",
        b"&#0;",
        b"&#x10FFFF;",
        b"&lol;",
        b"\x00",
        b"\xff\xfe",
        b"\xef\xbb\xbf",
    ),
    *(
        b"../",
        b"/etc/passwd",
        b"C:\\",
        b"%2e%2e%2f",
        b"file:///",
        b"http://[::1",
        b"http://\xc3\xa9.example:99999/",
        b"#",
        b"?",
        b"%",
        b"%zz",
        b"\xf0\x9f\x8c\x8a",
    ),
    *(
        b' identifier="R1"',
        b' identifierref="R1"',
        b' href=""',
        b' xml:base="../.."',
        b' type="webcontent"',
        b"<item>",
        b"</item>",
        b"<item><item><item>",
        b"1e999999999",
        b"-0",
        b"NaN",
        b"_" * 5_000,
    ),
    *(
        b'encoding="utf-16"',
        b'encoding="ebcdic-cp-us"',
        b'encoding="x"',
        b'xmlns=""',
        b'xmlns:q="http://www.imsglobal.org/xsd/imsccv1p1/imscp_v1p1"',
    ),
)


def damaged_bytes(data: bytes, chance: random.Random) -> bytes:
    """Return bytes with a few wounds: cut, doubled, swapped, or a morsel that hurts."""
    for _ in range(chance.choice((1, 1, 2, 4, 8))):
        at, length = chance.randrange(len(data) + 1), chance.choice((1, 1, 2, 8, 60))
        before, struck, after = data[:at], data[at : at + length], data[at + length :]
        data = (
            before
            + chance.choice(
                (b"", struck * 2, chance.choice(MORSELS) + struck, chance.randbytes(length))
            )
            + after
        )
    return data


def damaged_package(data: bytes, chance: random.Random) -> bytes:
    """Return a package whose archive or whose members were damaged."""
    if chance.random() < 0.3:
        return damaged_bytes(data, chance)
    target = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as source, zipfile.ZipFile(target, "w") as archive:
        names = source.namelist()
        struck = {
            chance.choice(names),
            "imsmanifest.xml" if chance.random() < 0.6 else chance.choice(names),
        }
        for name in names:
            content = source.read(name)
            archive.writestr(name, damaged_bytes(content, chance) if name in struck else content)
    return target.getvalue()


def fault_of(data: bytes) -> str:
    """Return what is wrong with how a package was taken, or nothing."""
    began = time.perf_counter()
    try:
        inspection(read_cartridge(io.BytesIO(data), LIMITS))
    except UnusableCartridge:
        pass
    except Exception as error:  # anything else is what this looks for
        return f"{type(error).__name__}: {error}"
    seconds = time.perf_counter() - began
    return f"slow: {seconds:.1f} s" if seconds > SLOW_SECONDS else ""


def main() -> None:
    """Run until the CPU time is spent."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--minutes", type=float, default=60)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--keep", type=Path, default=Path("fuzz-found"))
    args = parser.parse_args()
    # Repeatable by its seed, which is the point here.
    chance, seeds = (
        random.Random(args.seed),  # noqa: S311
        [path.read_bytes() for path in sorted(EXAMPLES.glob("*.imscc"))],
    )
    tried, found = 0, 0
    while (spent := time.process_time()) < args.minutes * 60:
        data = damaged_package(chance.choice(seeds), chance)
        tried += 1
        if fault := fault_of(data):
            found += 1
            args.keep.mkdir(exist_ok=True)
            (args.keep / f"{tried}.imscc").write_bytes(data)
            print(f"package {tried}: {fault}", flush=True)
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(
        f"{tried} packages in {spent / 60:.0f} min of CPU, {found} broke us; peak memory"
        f" {peak:.0f} MB"
    )


if __name__ == "__main__":
    main()
