"""Words from process to process, on whatever machine, through the database (PostgreSQL's NOTIFY).

Each process hears with one connection of its own, outside the pool, which a listener would hold for
ever; it is made again for as long as the process lives. Nothing is kept: whoever needs to know what
was said while nobody listened looks at the tables each time that ``at_start`` is called.
"""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Callable
from typing import Any

import psycopg
from django.db import connection

BACK_AFTER = 1.0  # seconds until a lost connection is made again
log = logging.getLogger(__name__)
_lock = threading.Lock()
_heard: dict[str, Callable[[str], None]] = {}
_starts: list[Callable[[], None]] = []
_listening = False


def hear(
    channel: str, words: Callable[[str], None], at_start: Callable[[], None] | None = None
) -> None:
    """Call ``words`` with what is said on a channel, and ``at_start`` whenever hearing begins."""
    with _lock:
        _heard[channel] = words
        if at_start is not None and at_start not in _starts:
            _starts.append(at_start)


def listen() -> None:
    """Begin to hear, once for each process; from here on it goes on in a thread of its own."""
    global _listening
    with _lock:
        begun, _listening = _listening, True
    if not begun:
        threading.Thread(target=_listen, daemon=True, name="broadcast").start()


def say(channel: str, words: str) -> None:
    """Say something at once, with a connection of its own: callers may be in a transaction, or in
    a thread that has no connection.
    """
    try:
        with _connected() as own:
            own.execute("SELECT pg_notify(%s, %s)", (channel, words))
    except psycopg.Error as error:
        log.warning("other processes could not be told (%s): %s", channel, error)


def _listen() -> None:
    while True:
        try:
            with _connected() as own:
                for channel in _heard:
                    own.execute(f"LISTEN {channel}")
                for start in _starts:
                    start()
                for each in own.notifies():
                    _heard[each.channel](each.payload)
        except psycopg.Error as error:
            log.info("other processes are not heard for a moment: %s", error)
        except Exception:  # what one word does must not keep all others from being heard
            log.exception("a word from another process could not be taken")
        time.sleep(BACK_AFTER)


def _connected() -> psycopg.Connection[Any]:
    facts = connection.get_connection_params()
    own: dict[str, Any] = {
        name: value for name, value in facts.items() if isinstance(value, str | int)
    }
    own |= {"connect_timeout": 5, "application_name": "vennpair broadcast"}
    return psycopg.connect(**own, autocommit=True)
