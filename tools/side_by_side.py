"""Prove that an upgrade needs no stop: the code of before runs on the schema of now, alone and with
the code of now beside it, and does its work.

``python -m tools.side_by_side [REF]`` takes the code of before from git (left out: the newest tag),
into a folder of its own, and lets it run ``tools/upgrade/before.py``. It changes nothing here.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path

from tools.world.cluster import ROOT


def main() -> None:
    """Run; ends with the status of what ran."""
    ref = sys.argv[1] if len(sys.argv) > 1 else git("describe", "--tags", "--abbrev=0")
    with tempfile.TemporaryDirectory(prefix="vennpair-before-") as folder:
        before = Path(folder) / "before"
        git("worktree", "add", "--detach", "--quiet", str(before), ref)
        try:
            (before / ".venv").symlink_to(ROOT / ".venv")
            # The console of now is served by both: browsers that are open bring the old one.
            (before / "console" / "dist").symlink_to(ROOT / "console" / "dist")
            path = os.pathsep.join((str(before / "src"), str(before)))
            done = subprocess.run(
                [sys.executable, str(ROOT / "tools/upgrade/before.py"), str(ROOT)],
                cwd=before,
                env=os.environ | {"PYTHONPATH": path},
            )
        finally:
            git("worktree", "remove", "--force", str(before))
    if done.returncode == 0:
        print(f"{ref} and this version run side by side on this version's schema.")
    raise SystemExit(done.returncode)


def git(*words: str) -> str:
    """Run git here; return what it prints. Raises SystemExit with its words."""
    done = subprocess.run(["git", *words], cwd=ROOT, capture_output=True, text=True)
    if done.returncode:
        raise SystemExit(f"git {words[0]}: {done.stderr.strip()}")
    return done.stdout.strip()


if __name__ == "__main__":
    main()
