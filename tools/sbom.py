"""Write what the product is made of: a bill of materials (CycloneDX 1.5, JSON) for the service and
for the console, and the licences of all of it as a table.

Usage: python -m tools.sbom [FOLDER]        (build/sbom without it)
The tool that lists Python packages is kept in an environment of its own, so that it is not listed.
"""

from __future__ import annotations

import argparse
import csv
import json
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from tools.world.cluster import ROOT, RUN

LISTER = "cyclonedx-bom==7.5.0"


def main() -> None:
    """Run."""
    parser = argparse.ArgumentParser(
        description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter
    )
    parser.add_argument("folder", nargs="?", type=Path, default=ROOT / "build" / "sbom")
    folder: Path = parser.parse_args().folder
    folder.mkdir(parents=True, exist_ok=True)
    parts = {"service": _python(), "console": _node()}
    rows = []
    for name, document in parts.items():
        (folder / f"{name}.cdx.json").write_text(json.dumps(document, indent=2) + "\n")
        rows += [(name, *row) for row in _licences(document)]
    with (folder / "licences.csv").open("w", newline="") as target:
        writer = csv.writer(target)
        writer.writerow(("part", "package", "version", "licence"))
        writer.writerows(sorted(set(rows)))
    unknown = sum(row[3] == "" for row in set(rows))
    print(f"sbom: {len(set(rows))} packages, {unknown} without a stated licence, in {folder}")


def _python() -> Any:
    lister = RUN / "sbom"
    if not (lister / "bin" / "cyclonedx-py").exists():
        subprocess.run([sys.executable, "-m", "venv", str(lister)], check=True)
        subprocess.run([lister / "bin" / "pip", "install", "-q", LISTER], check=True)
    words = ["environment", sys.executable, "--of", "JSON", "--sv", "1.5", "--output-reproducible"]
    words += ["--pyproject", str(ROOT / "pyproject.toml")]
    return _read([str(lister / "bin" / "cyclonedx-py"), *words], ROOT)


def _node() -> Any:
    return _read(["npm", "sbom", "--sbom-format", "cyclonedx"], ROOT / "console")


def _read(command: list[str], where: Path) -> Any:
    done = subprocess.run(command, cwd=where, capture_output=True, text=True)
    if done.returncode:
        raise SystemExit(f"sbom: {command[0]} failed:\n{done.stderr.strip()}")
    return json.loads(done.stdout)


def _licences(document: Any) -> Iterator[tuple[str, str, str]]:
    """Give name, version and licences of each component."""
    for each in document["components"]:
        stated = [
            row.get("expression") or row["license"].get("id") or row["license"].get("name", "")
            for row in each.get("licenses", [])
        ]
        short = [words.strip().splitlines()[0][:80] for words in stated if words.strip()]
        yield each["name"], each.get("version", ""), " AND ".join(dict.fromkeys(short))


if __name__ == "__main__":
    main()
