"""Who works on something right now: PostgreSQL's session locks.

A lock held by a session ends with it, even where a worker is killed, so there is no lease to time
out and no second worker on one thing. Raw SQL, as the ORM has no such lock.
"""

from __future__ import annotations

import hashlib
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection

_mine = threading.local()


class Busy(Exception):
    """Somebody else works on it right now."""


class LockLost(Exception):
    """The session that held a lock is gone, so somebody else may hold it by now."""


@contextmanager
def only_one(what: str) -> Iterator[None]:
    """Hold the lock named ``what`` while inside.

    Raises Busy at once where another session holds it.
    """
    key = _key(what)
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_try_advisory_lock(%s)", [key])
        if not cursor.fetchone()[0]:
            raise Busy(what)
    held = _held()
    held[what] = _session()
    try:
        yield
    finally:
        if held.pop(what) == _session():  # another session holds nothing that could be given back
            with connection.cursor() as cursor:
                cursor.execute("SELECT pg_advisory_unlock(%s)", [key])


def require_held() -> None:
    """Let pass where this thread's locks still hold. A connection that broke and was renewed took
    them with it: then whoever works under them must end. Raises LockLost.
    """
    session = _session()
    if lost := [what for what, of in _held().items() if of != session]:
        raise LockLost(", ".join(lost))


def is_held(what: str) -> bool:
    """Say whether somebody works on it right now."""
    try:
        with only_one(what):
            return False
    except Busy:
        return True


def _held() -> dict[str, int]:
    """Return this thread's locks with the sessions that hold them."""
    held: dict[str, int] = _mine.__dict__.setdefault("held", {})
    return held


def _session() -> int:
    """Return the process id of the server's session; 0 where there is none now."""
    return 0 if connection.connection is None else int(connection.connection.info.backend_pid)


def _key(what: str) -> int:
    """Return the 64 bits by which PostgreSQL knows a lock: of fewer, two things that have nothing
    to do with one another would keep each other waiting.
    """
    return int.from_bytes(hashlib.blake2b(what.encode(), digest_size=8).digest(), signed=True)
