"""A cluster whose databases are laid: tables made, sample data in the campus and the press.

It is made once for each state of the code that makes it; a world that nobody keeps begins as a
copy, in a second instead of half a minute.

Usage: python -m tools.world.laid
"""

from __future__ import annotations

import fcntl
import hashlib
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor

from tools.world.cluster import ROOT, RUN, Cluster

NAME = "laid"
_SEEDED = ("campus", "press")


def laid_cluster() -> Cluster:
    """Return the laid cluster, which is down; made first where it is missing or out of date."""
    RUN.mkdir(exist_ok=True)
    cluster = Cluster(NAME, throwaway=True)
    with (RUN / f"{NAME}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)  # who comes second waits, and finds it made
        mark = RUN / f"{NAME}.mark"
        wanted = _fingerprint()
        if not mark.exists() or mark.read_text() != wanted:
            mark.unlink(missing_ok=True)
            _lay(cluster)
            mark.write_text(wanted)
    return cluster


def _lay(cluster: Cluster) -> None:
    from tools.world.world import MANAGE, SITES

    cluster.remove()
    cluster.start()
    for site in SITES:
        cluster.ensure_database(site)

    def fill(site: str) -> None:
        prefix = site.upper()
        environment = {
            f"{prefix}_URL": "http://127.0.0.1:1",
            f"{prefix}_SECRET_KEY": "only for laying",
            f"{prefix}_DATABASE_URL": f"{cluster.url}/{site}",
            "VENNPAIR_SECRETS_KEYS": "0" * 43 + "=",
            "VENNPAIR_DATABASE_POOL": "false",
        }
        for command in ("migrate", *(["seed"] if site in _SEEDED else [])):
            words = [sys.executable, "-m", MANAGE[site], command, "--verbosity", "0"]
            subprocess.run(words, env=environment, cwd=ROOT, check=True)

    with ThreadPoolExecutor(len(SITES)) as threads:
        list(threads.map(fill, SITES))
    cluster.stop()


def _fingerprint() -> str:
    """Return what tells one state of the tables and the sample data from another."""
    source = ROOT / "src" / "vennpair"
    files = {
        *source.glob("service/*/migrations/*.py"),
        *source.glob("standins/**/*.py"),
        ROOT / "requirements.lock",
        *(ROOT / "tools" / "world" / name for name in ("laid.py", "cluster.py")),
    }
    digest = hashlib.sha256()
    for path in sorted(files):
        digest.update(f"{path.relative_to(ROOT)}\n".encode() + path.read_bytes())
    return digest.hexdigest()


if __name__ == "__main__":
    laid_cluster()
