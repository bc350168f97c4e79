"""Doing the same for many, of whom one may have data that nobody foresaw."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterable
from contextlib import nullcontext
from typing import TypeVar

from django.db import InterfaceError, OperationalError, transaction

log = logging.getLogger(__name__)
Each = TypeVar("Each")
Result = TypeVar("Result")


def apart(
    rows: Iterable[Each], act: Callable[[Each], Result], what: str, *, transacts: bool = True
) -> list[Result]:
    """Act on each, in a transaction of its own; return what came of those that went well.
    ``transacts`` False: ``act`` sees to transactions, as what calls outside, or holds a lock for
    longer than one, must.

    What goes wrong with one is logged, with ``what`` was to be done, and keeps no other from it.
    Raises OperationalError or InterfaceError where the database is away: that is nobody's own.
    """
    done = []
    for each in rows:
        try:
            with transaction.atomic() if transacts else nullcontext():
                done.append(act(each))
        except (OperationalError, InterfaceError):
            raise
        except Exception:
            log.exception("%s failed for %s; all others go on", what, getattr(each, "pk", each))
    return done
