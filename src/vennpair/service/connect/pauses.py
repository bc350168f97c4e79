"""Pauses that other systems asked for, and how many calls at once they bear, told from process to
process (kernel/broadcast.py).

What one worker learns from a 429 all web processes and workers know within milliseconds. Calls run
in threads without the database, so the telling has threads of its own.
"""

from __future__ import annotations

import json
import threading
from datetime import datetime
from typing import Any

from vennpair.gateways.patience import Patience
from vennpair.service.kernel.broadcast import hear, listen, say

CHANNEL = "vennpair_pause"
_lock = threading.Lock()
_known: dict[str, Patience] = {}


def patience_of(key: Any, who: str) -> Patience:
    """Return the patience with one platform or publisher, the same for all threads."""
    with _lock:
        if str(key) not in _known:
            _known[str(key)] = Patience(who, lambda until, width: _tell(str(key), until, width))
        found = _known[str(key)]
    listen()
    return found


def hear_pauses() -> None:
    """Learn what other processes learned."""
    hear(CHANNEL, _learn)


def _tell(key: str, until: datetime, width: float) -> None:
    words = json.dumps({"of": key, "until": until.isoformat(), "width": width})
    threading.Thread(target=say, args=(CHANNEL, words), daemon=True, name="pause").start()


def _learn(payload: str) -> None:
    told = json.loads(payload)
    with _lock:
        patience = _known.get(told["of"])
    if patience is not None:
        patience.learn(datetime.fromisoformat(told["until"]), told["width"])
