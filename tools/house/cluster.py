"""A PostgreSQL cluster of the project's own: on a free loopback port, run as a non-root user, kept
under .run/.

Usage: python -m tools.house.cluster start|stop
"""

from __future__ import annotations

import hashlib
import os
import pwd
import secrets
import shutil
import socket
import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
RUN = ROOT / ".run"
OWNER = "vennpair"


def start_cluster() -> str:
    """Start the cluster if it is down; return its URL without a database name."""
    home = _home()
    if not (home / "data" / "PG_VERSION").exists():
        _make(home)
    if not _running(home):
        _clear_stale_lock(home)
        port = _port(home)
        _as_owner(
            [
                _binary("pg_ctl"),
                "-D",
                home / "data",
                "-l",
                home / "log",
                "-w",
                "-o",
                f"-p {port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''",
                "start",
            ]
        )
    return cluster_url()


def stop_cluster(how: str = "fast") -> None:
    """Stop the cluster if it runs; ``immediate`` is what a power cut is."""
    home = _home()
    if (home / "data").exists() and _running(home):
        _as_owner([_binary("pg_ctl"), "-D", home / "data", "-m", how, "-w", "stop"])


def cluster_url() -> str:
    """Return the cluster's URL without a database name."""
    home = _home()
    return f"postgres://{OWNER}:{(home / 'password').read_text().strip()}@127.0.0.1:{(home / 'port').read_text().strip()}"


def ensure_database(name: str, *, fresh: bool = False) -> str:
    """Make a database unless it is there (or anew with ``fresh``); return its URL."""
    import psycopg
    from psycopg import sql

    with psycopg.connect(f"{start_cluster()}/postgres", autocommit=True) as connection:
        if fresh:
            connection.execute(
                sql.SQL("DROP DATABASE IF EXISTS {} WITH (FORCE)").format(sql.Identifier(name))
            )
        if not connection.execute(
            "SELECT 1 FROM pg_database WHERE datname = %s", [name]
        ).fetchone():
            connection.execute(
                sql.SQL("CREATE DATABASE {} ENCODING 'UTF8' TEMPLATE template0").format(
                    sql.Identifier(name)
                )
            )
    return f"{cluster_url()}/{name}"


def free_port(wanted: int = 0) -> int:
    """Return ``wanted`` where it is free on loopback, else another free port."""
    for port in (wanted, 0):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return int(probe.getsockname()[1])
    raise SystemExit("cluster: no free port on 127.0.0.1")


def _home() -> Path:
    """Return the cluster's folder; elsewhere, by a link, where the checkout is closed to other
    users.
    """
    home = RUN / "cluster"
    if not home.exists():
        RUN.mkdir(exist_ok=True)
        if os.geteuid() == 0 and not _reachable(RUN):
            mark = hashlib.sha256(str(ROOT).encode()).hexdigest()[:10]
            real = Path("/var/tmp") / f"vennpair-{mark}"  # noqa: S108 - our own, made with 0700
            real.mkdir(mode=0o700, exist_ok=True)
            home.unlink(missing_ok=True)
            home.symlink_to(real)
        else:
            home.mkdir(mode=0o700)
        _own(home)
    return home.resolve()


def _make(home: Path) -> None:
    password = secrets.token_urlsafe(18)
    (home / "password").write_text(password)
    _own(home / "password")
    (home / "password").chmod(0o600)
    shutil.rmtree(home / "data", ignore_errors=True)
    _as_owner(
        [
            _binary("initdb"),
            "-D",
            home / "data",
            "-U",
            OWNER,
            "--pwfile",
            home / "password",
            "--auth=scram-sha-256",
            "--encoding=UTF8",
            "--locale=C.UTF-8",
        ]
    )


def _port(home: Path) -> int:
    """Return a port for the cluster: the last one where it is still free."""
    kept = home / "port"
    port = free_port(int(kept.read_text()) if kept.exists() else 54890)
    kept.write_text(str(port))
    return port


def _running(home: Path) -> bool:
    return (
        subprocess.run(
            _owned([_binary("pg_ctl"), "-D", home / "data", "status"]), capture_output=True
        ).returncode
        == 0
    )


def _clear_stale_lock(home: Path) -> None:
    """Remove the lock file of a cluster whose machine went away: its process number may be
    anybody's now.
    """
    (home / "data" / "postmaster.pid").unlink(missing_ok=True)


def _binary(name: str) -> Path:
    found = sorted(
        Path("/usr/lib/postgresql").glob(f"*/bin/{name}"), key=lambda path: int(path.parts[4])
    )
    if not found:
        raise SystemExit(
            "cluster: PostgreSQL's server is not installed; run: apt-get install postgresql"
        )
    return found[-1]


def _owned(command: list[object]) -> list[str]:
    """Return a command that runs as a non-root user where we are root."""
    words = [str(word) for word in command]
    return (
        ["setpriv", "--reuid=postgres", "--regid=postgres", "--init-groups", *words]
        if os.geteuid() == 0
        else words
    )


def _as_owner(command: list[object]) -> None:
    environment = {key: value for key, value in os.environ.items() if not key.startswith("PG")} | {
        "LC_ALL": "C.UTF-8"
    }
    # Output goes to a file: a server that inherits a pipe would keep whoever reads it waiting.
    with (RUN / "cluster.out").open("ab") as out:
        done = subprocess.run(
            _owned(command),
            stdout=out,
            stderr=out,
            stdin=subprocess.DEVNULL,
            cwd="/",
            env=environment,
        )
    if done.returncode:
        raise SystemExit(
            f"cluster: {Path(str(command[0])).name} failed; see {RUN / 'cluster.out'} and"
            f" {_home() / 'log'}"
        )


def _own(path: Path) -> None:
    if os.geteuid() == 0:
        owner = pwd.getpwnam("postgres")
        os.chown(path, owner.pw_uid, owner.pw_gid)


def _reachable(path: Path) -> bool:
    return (
        subprocess.run(
            [
                "setpriv",
                "--reuid=postgres",
                "--regid=postgres",
                "--init-groups",
                "test",
                "-x",
                str(path),
            ],
            cwd="/",
        ).returncode
        == 0
    )


def main() -> None:
    """Run from the command line."""
    verb = sys.argv[1] if len(sys.argv) > 1 else ""
    began = time.monotonic()
    if verb == "start":
        print(f"cluster: {start_cluster().split('@')[1]} after {time.monotonic() - began:.1f} s")
    elif verb == "stop":
        stop_cluster()
    else:
        raise SystemExit(__doc__)


if __name__ == "__main__":
    main()
