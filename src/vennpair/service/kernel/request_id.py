"""Which request something belongs to: told by the proxy in front or made here, and found again in
the log, in problem documents and in the audit trail.
"""

from __future__ import annotations

import logging
import re
import uuid
from contextvars import ContextVar

HEADER = "X-Request-ID"
_FITS = re.compile(r"[\w.:-]{1,64}", re.ASCII)
_current: ContextVar[str] = ContextVar("request_id", default="")


def begin(told: str) -> str:
    """Take over the id that came with a request, where it is one, or make one; return it."""
    made = told if _FITS.fullmatch(told) else uuid.uuid4().hex
    _current.set(made)
    return made


def current() -> str:
    """Return the id of the request that is being answered, empty outside of one."""
    return _current.get()


class TellRequest(logging.Filter):
    """Adds the id to each line of the log."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Add it; every line passes."""
        record.request_id = current()
        return True
