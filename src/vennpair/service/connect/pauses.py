"""Pauses that other systems asked for, and how many calls at once they bear, told from process to
process through the database.

PostgreSQL's NOTIFY carries them: what one worker learns from a 429 all web processes and workers
know within milliseconds, on whatever machine. Calls run in threads without the database, so the
telling has threads of its own.
"""

from __future__ import annotations

import json
import logging
import threading
import time
from datetime import datetime
from typing import Any

import psycopg
from django.db import connection

from vennpair.gateways.patience import Patience

CHANNEL = "vennpair_pause"
BACK_AFTER = 1.0  # seconds until a lost connection is made again
log = logging.getLogger(__name__)
_lock = threading.Lock()
_known: dict[str, Patience] = {}
_listening = False


def patience_of(key: Any, who: str) -> Patience:
    """Return the patience with one platform or publisher, the same for all threads."""
    global _listening
    with _lock:
        if str(key) not in _known:
            _known[str(key)] = Patience(who, lambda until, width: _tell(str(key), until, width))
        if not _listening:
            _listening = True
            threading.Thread(target=_listen, daemon=True, name="pauses").start()
        return _known[str(key)]


def _tell(key: str, until: datetime, width: float) -> None:
    """Tell all processes, from a thread with a connection of its own."""
    threading.Thread(target=_notify, args=(key, until, width), daemon=True, name="pause").start()


def _notify(key: str, until: datetime, width: float) -> None:
    try:
        with _connected() as own:
            payload = json.dumps({"of": key, "until": until.isoformat(), "width": width})
            own.execute("SELECT pg_notify(%s, %s)", (CHANNEL, payload))
    except psycopg.Error as error:
        log.warning("a pause could not be told to other processes: %s", error)


def _listen() -> None:
    """Learn of pauses for as long as the process lives."""
    while True:
        try:
            with _connected() as own:
                own.execute(f"LISTEN {CHANNEL}")
                for each in own.notifies():
                    _learn(each.payload)
        except psycopg.Error as error:
            log.info("pauses of other processes are not heard for a moment: %s", error)
        time.sleep(BACK_AFTER)


def _learn(payload: str) -> None:
    told = json.loads(payload)
    with _lock:
        patience = _known.get(told["of"])
    if patience is not None:
        patience.learn(datetime.fromisoformat(told["until"]), told["width"])


def _connected() -> psycopg.Connection[Any]:
    """Return a connection outside the pool, which a listener would hold for ever."""
    facts = connection.get_connection_params()
    own: dict[str, Any] = {
        name: value for name, value in facts.items() if isinstance(value, str | int)
    }
    own |= {"connect_timeout": 5, "application_name": "vennpair pauses"}
    return psycopg.connect(**own, autocommit=True)
