"""Pauses that other systems asked for, and how many calls at once they bear, told from process to
process (kernel/broadcast.py).

What one worker learns from a 429 all web processes and workers know within milliseconds; one that
has just begun asks, and is told again. Calls run in threads without the database, so the telling
has threads of its own.
"""

from __future__ import annotations

import json
import threading
from datetime import datetime
from typing import Any

from vennpair.gateways.patience import Patience
from vennpair.service.kernel.broadcast import hear, listen, say

CHANNEL, ASKED = "vennpair_pause", "vennpair_pause_asked"
_lock = threading.Lock()
_known: dict[str, Patience] = {}


def patience_of(key: Any, who: str) -> Patience:
    """Return the patience with one platform or publisher, the same for all threads."""
    listen()
    return _kept(str(key), who)


def hear_pauses() -> None:
    """Learn what other processes learned, before this one began as well."""
    hear(CHANNEL, _learn, at_start=lambda: say(ASKED, ""))
    hear(ASKED, lambda words: _tell_again())


def _kept(key: str, who: str) -> Patience:
    with _lock:
        if key not in _known:
            _known[key] = Patience(who, lambda until, width: _tell(key, who, until, width))
        return _known[key]


def _tell(key: str, who: str, until: datetime, width: float) -> None:
    words = json.dumps({"of": key, "who": who, "until": until.isoformat(), "width": width})
    threading.Thread(target=say, args=(CHANNEL, words), daemon=True, name="pause").start()


def _tell_again() -> None:
    """Tell a process that has just begun of the pauses that are not over."""
    with _lock:
        known = list(_known.items())
    for key, patience in known:
        if (until := patience.pause) is not None:
            _tell(key, patience.who, until, patience.width)


def _learn(payload: str) -> None:
    """Take over a pause, also of a system that this process has not called yet."""
    told = json.loads(payload)
    patience = _kept(told["of"], told["who"])
    patience.learn(datetime.fromisoformat(told["until"]), told["width"])
