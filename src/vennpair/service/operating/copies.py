"""A copy of the whole database in one file, and a database made from it.

PostgreSQL's own pg_dump and pg_restore do it; a password goes to them through the environment,
which others on the machine cannot read, and never through their arguments, which they can.
"""

from __future__ import annotations

import os
import re
import shutil
import subprocess
from pathlib import Path
from typing import Any

from django.db import connection

from vennpair.core.counting import many

DEBIAN = Path("/usr/lib/postgresql")  # a folder for each version, not in the path
_NAMES = {
    "host": "PGHOST",
    "port": "PGPORT",
    "user": "PGUSER",
    "password": "PGPASSWORD",
    "dbname": "PGDATABASE",
    "sslmode": "PGSSLMODE",
    "sslrootcert": "PGSSLROOTCERT",
}


class NoCopy(Exception):
    """It could not be made or read; the text says why and what to do."""


def make_copy(file: Path, *, replace: bool) -> int:
    """Write the database into a file that only its owner may read; return its bytes. What was
    there is replaced only once the new one is whole. Raises NoCopy.
    """
    if file.exists() and not replace:
        raise NoCopy(f"{file} is there already. Give another name, or --replace.")
    waiting = file.with_name(f"{file.name}.part")
    try:
        waiting.unlink(missing_ok=True)
        os.close(os.open(waiting, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600))
        _run("pg_dump", "--format=custom", "--no-owner", "--no-privileges", f"--file={waiting}")
        _run("pg_restore", "--list", str(waiting))
        waiting.replace(file)
    except OSError as error:
        raise NoCopy(f"{file} cannot be written: {error.strerror}.") from error
    finally:
        waiting.unlink(missing_ok=True)
    return file.stat().st_size


def restore_copy(file: Path) -> None:
    """Fill the database of the settings, which must be empty, from a copy: all or nothing. Raises
    NoCopy.
    """
    if not file.is_file():
        raise NoCopy(f"There is no file {file}.")
    with connection.cursor() as cursor:
        there = connection.introspection.table_names(cursor)
    if there:
        raise NoCopy(
            f"The database '{connection.settings_dict['NAME']}' is not empty: it has"
            f" {many(len(there), 'table')}. Make a new one and name it in VENNPAIR_DATABASE_URL."
        )
    connection.close()
    _run(
        "pg_restore",
        *("--no-owner", "--no-privileges", "--exit-on-error", "--single-transaction"),
        f"--dbname={connection.settings_dict['NAME']}",
        str(file),
    )


def _run(program: str, *words: str) -> None:
    facts = connection.get_connection_params()
    told = {name: str(facts[key]) for key, name in _NAMES.items() if facts.get(key)}
    done = subprocess.run(
        [_found(program), *words], env=os.environ | told, capture_output=True, text=True
    )
    if done.returncode:
        said = done.stderr.strip().splitlines() or ["it gave no reason"]
        raise NoCopy(f"{program} could not do it: {said[-1][:400]}")


def _found(program: str) -> str:
    """Return the newest one that is installed: an older one cannot read a newer server."""
    placed = [*DEBIAN.glob(f"*/bin/{program}")]
    newest = max(placed, key=_version, default=None)
    known = str(newest) if newest else shutil.which(program)
    if known is None:
        raise NoCopy(f"{program} is not installed. Install PostgreSQL's client programs.")
    return known


def _version(path: Path) -> int:
    number = re.sub(r"\D", "", path.parts[-3])
    return int(number or 0)


def contents() -> dict[str, Any]:
    """Return how many there are of what an operator knows by number."""
    from django.apps import apps

    named = {
        "institutions": "connect.Institution",
        "people": "connect.User",
        "shells": "pair.Shell",
        "pairings": "pair.Pairing",
        "learners": "pair.Learner",
        "reported scores": "relay.LedgerEntry",
    }
    return {words: apps.get_model(name).objects.count() for words, name in named.items()}
