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

from tools.world.cluster import ROOT

CONSOLE = ROOT / "console"
BIN = Path(sys.executable).parent
CODE = ["src", "tests", "tools", "bench"]
# A world for each of two workers; files stay whole, as their tests share what they lay.
PYTEST = [str(BIN / "pytest"), "-q", "-n", "2", "--dist", "loadfile"]
# What the tests' worlds begin as: made meanwhile, it is there when they begin.
LAY = ("sample databases", ROOT, [sys.executable, "-m", "tools.world.laid"])
# The slowest first, so that the last does not run alone.
LINT: list[tuple[str, Path, list[str]]] = [
    ("mypy", ROOT, [str(BIN / "mypy")]),
    ("vitest", CONSOLE, ["npm", "run", "--silent", "test"]),
    ("vue-tsc", CONSOLE, ["npm", "run", "--silent", "check"]),
    ("eslint", CONSOLE, ["npm", "run", "--silent", "lint"]),
    ("prettier", CONSOLE, ["npm", "run", "--silent", "format"]),
    ("schema and types", ROOT, [sys.executable, "-m", "tools.schema", "--check"]),
    ("sentences", ROOT, [sys.executable, "-m", "tools.sentences", "--check"]),
    ("chunk sizes", CONSOLE, ["node", "budget.mjs"]),
    ("import contracts", ROOT, [str(BIN / "lint-imports")]),
    ("ruff", ROOT, [str(BIN / "ruff"), "check", *CODE]),
    ("ruff format", ROOT, [str(BIN / "ruff"), "format", "--check", "-q", *CODE]),
]


def main() -> None:
    """Run."""
    began, whole = time.monotonic(), sys.argv[1:] == ["all"]
    with ThreadPoolExecutor(2) as threads:
        done = list(threads.map(_run, [*([LAY] if whole else []), *LINT]))
    print("check:", ", ".join(f"{name} {seconds:.0f} s" for name, _, seconds in done), flush=True)
    if failed := [name for name, good, _ in done if not good]:
        raise SystemExit(f"check: {', '.join(failed)} failed")
    print(
        f"check: lint, types, contracts and composables hold ({time.monotonic() - began:.0f} s)",
        flush=True,
    )
    if whole:
        raise SystemExit(subprocess.run([*PYTEST, *_order()], cwd=ROOT).returncode)


def _order() -> list[str]:
    """Return the order of the tests: random, but one for one state of the code.

    So whoever runs a commit again runs what its author ran; other orders are ``tools.steady``'s.
    """
    git = ["git", "rev-parse", "--short=7", "HEAD^{tree}"]
    done = subprocess.run(git, cwd=ROOT, capture_output=True, text=True)
    return [f"--randomly-seed={int(done.stdout, 16)}"] if done.returncode == 0 else []


def _run(step: tuple[str, Path, list[str]]) -> tuple[str, bool, float]:
    name, folder, command = step
    began = time.monotonic()
    environment = os.environ | {"PATH": f"{BIN}:{os.environ['PATH']}", "NO_COLOR": "1"}
    done = subprocess.run(command, cwd=folder, capture_output=True, text=True, env=environment)
    if done.returncode:
        print(f"--- {name}\n{done.stdout[-6000:]}\n{done.stderr[-3000:]}", flush=True)
    return name, done.returncode == 0, time.monotonic() - began


if __name__ == "__main__":
    main()
