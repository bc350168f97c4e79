"""Who works on something right now: PostgreSQL's session locks.

A lock held by a session ends with it, even where a worker is killed, so there is no lease to time
out and no second worker on one thing. This is the one place with raw SQL: the ORM has no such lock.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection


class Busy(Exception):
    """Somebody else works on it right now."""


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
    try:
        yield
    finally:
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_unlock(%s)", [key])


def is_held(what: str) -> bool:
    """Say whether somebody works on it right now."""
    try:
        with only_one(what):
            return False
    except Busy:
        return True


def _key(what: str) -> int:
    """Return the 64 bits by which PostgreSQL knows a lock: of fewer, two things that have nothing to
    do with one another would keep each other waiting.
    """
    return int.from_bytes(hashlib.blake2b(what.encode(), digest_size=8).digest(), signed=True)
