"""Putting the hold on and off, and knowing it in every process without asking the database for
each call: calls run in threads that have no connection.
"""

from __future__ import annotations

import threading

from django.db import DatabaseError, connection, transaction
from django.utils import timezone

from vennpair.service.kernel.broadcast import hear, listen, say
from vennpair.service.kernel.hold.models import Hold

CHANNEL = "vennpair_hold"
FIRST_LOOK_SECONDS = 5.0
A_COPY = "this database is a copy, and what it was copied from may still be running"
UNKNOWN = "whether calls are kept back could not be read"
_looked = threading.Event()
_why = UNKNOWN


def known() -> str:
    """Return why calls are kept back as this process knows it, empty where they are not.

    Before the first look it waits a little, and keeps them back where nothing could be read.
    """
    if not _looked.is_set():
        listen()
        _looked.wait(FIRST_LOOK_SECONDS)
    return _why


def hear_of_hold() -> None:
    """Look whenever somebody says that it changed, and whenever hearing begins."""
    hear(CHANNEL, lambda words: _look(), _look)


def state() -> tuple[Hold, str]:
    """Return the row, made where there is none, and why calls are kept back as it is now."""
    here = database_here()
    row, _ = Hold.objects.get_or_create(pk=1, defaults={"database": here})
    if row.on:
        return row, row.why or "the operator keeps all calls back"
    return row, "" if row.database == here else A_COPY


def put_on(why: str) -> None:
    """Keep all outgoing calls back from now on; again changes why."""
    with transaction.atomic():
        row, _ = state()
        row.on, row.why, row.since = True, why[:300], row.since or timezone.now()
        row.save()
    say(CHANNEL, "on")


def take_off() -> None:
    """Let calls go, in this very database."""
    with transaction.atomic():
        row, _ = state()
        row.on, row.why, row.since, row.database = False, "", None, database_here()
        row.save()
    say(CHANNEL, "off")


def database_here() -> str:
    """Return what tells this database from every copy of it: the cluster's identifier, which a
    standby shares, and the database's number in it.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT (SELECT system_identifier FROM pg_control_system()),"
            " (SELECT oid FROM pg_database WHERE datname = current_database())"
        )
        cluster, number = cursor.fetchone()
    return f"{cluster}/{number}"


def _look() -> None:
    """Read it; where the database fails, what was known stays."""
    global _why
    try:
        _, _why = state()
        _looked.set()
    except DatabaseError:
        return
    finally:
        connection.close()
