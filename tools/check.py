"""make test and make lint: everything that must hold, in the order in which it fails fastest.

Usage: python -m tools.check lint|all
"""

from __future__ import annotations

import os
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from tools.house.cluster import ROOT

CONSOLE = ROOT / "console"
BIN = Path(sys.executable).parent
LINT: list[tuple[str, Path, list[str]]] = [
    ("ruff", ROOT, [str(BIN / "ruff"), "check", "src", "tests", "tools", "bench"]),
    (
        "ruff format",
        ROOT,
        [str(BIN / "ruff"), "format", "--check", "-q", "src", "tests", "tools", "bench"],
    ),
    ("mypy", ROOT, [str(BIN / "mypy")]),
    ("import contracts", ROOT, [str(BIN / "lint-imports")]),
    ("eslint", CONSOLE, ["npm", "run", "--silent", "lint"]),
    ("vue-tsc", CONSOLE, ["npm", "run", "--silent", "check"]),
    ("vitest", CONSOLE, ["npm", "run", "--silent", "test"]),
]


def main() -> None:
    """Run."""
    began = time.monotonic()
    with ThreadPoolExecutor(2) as threads:
        failed = [name for name, good in threads.map(_run, LINT) if not good]
    if failed:
        raise SystemExit(f"check: {', '.join(failed)} failed")
    print(
        f"check: lint, types, contracts and composables hold ({time.monotonic() - began:.0f} s)",
        flush=True,
    )
    if sys.argv[1:] == ["all"]:
        raise SystemExit(subprocess.run([str(BIN / "pytest"), "-q"], cwd=ROOT).returncode)


def _run(step: tuple[str, Path, list[str]]) -> tuple[str, bool]:
    name, folder, command = step
    done = subprocess.run(
        command,
        cwd=folder,
        capture_output=True,
        text=True,
        env=os.environ | {"PATH": f"{BIN}:{os.environ['PATH']}", "NO_COLOR": "1"},
    )
    if done.returncode:
        print(f"--- {name}\n{done.stdout[-6000:]}\n{done.stderr[-3000:]}", flush=True)
    return name, done.returncode == 0


if __name__ == "__main__":
    main()
