"""Make a release: ``python -m tools.release 0.2.0`` checks that everything says so, proves the
upgrade from the version before, builds the wheel and tags the commit. It pushes nothing.
"""

from __future__ import annotations

import re
import subprocess
import sys

from tools.side_by_side import git
from tools.world.cluster import ROOT

SEMANTIC = re.compile(r"\d+\.\d+\.\d+")


def main() -> None:
    """Run; the first thing that is not right ends it."""
    if len(sys.argv) != 2 or not SEMANTIC.fullmatch(sys.argv[1]):
        raise SystemExit("Say which: python -m tools.release MAJOR.MINOR.PATCH")
    version = sys.argv[1]
    if git("status", "--porcelain"):
        raise SystemExit("The work tree has changes: commit them first.")
    if f'version = "{version}"' not in (ROOT / "pyproject.toml").read_text():
        raise SystemExit(f"pyproject.toml does not say version {version}.")
    heading = re.search(rf"^## {re.escape(version)}, (.+)$", _read("CHANGELOG.md"), re.M)
    if heading is None or heading[1] == "unreleased":
        raise SystemExit(f"CHANGELOG.md has no '## {version}, DATE' with what operators must know.")
    if git("tag", "--list", f"v{version}"):
        raise SystemExit(f"v{version} is there already.")
    if git("tag", "--list", "v*"):
        _run(sys.executable, "-m", "tools.side_by_side")
    _run("bash", "tools/wheel.sh")
    git("tag", "--annotate", f"v{version}", "--message", f"Version {version}")
    print(f"v{version} is tagged; its wheel is in dist/.")


def _read(name: str) -> str:
    return (ROOT / name).read_text()


def _run(*words: str) -> None:
    if subprocess.run(words, cwd=ROOT).returncode:
        raise SystemExit(f"{' '.join(words[-2:])} failed; nothing was tagged.")


if __name__ == "__main__":
    main()
