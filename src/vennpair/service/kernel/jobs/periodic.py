"""What is done at intervals: declared once, run by the queue's clock, or by whoever owns the clock.

A worker with ``VENNPAIR_PERIODIC=false`` only works through the queue; somebody else must then say
when it is time (the tests do, so that nothing begins while they look).
"""

from __future__ import annotations

import asyncio
import inspect
from collections.abc import Awaitable, Callable
from datetime import UTC, datetime
from typing import Any

from django.conf import settings
from procrastinate.contrib.django import app
from procrastinate.tasks import Task

Due = Task[..., Any, Any]

_declared: list[Due] = []


def every(cron: str) -> Callable[[Due], Due]:
    """Declare a task that is run at the times of ``cron`` (five fields, UTC).

    The task gets ``timestamp``, the seconds since 1970 of the moment that it is run for.
    """

    def declare(task: Due) -> Due:
        _declared.append(task)
        if settings.PERIODIC:
            app.periodic(cron=cron)(task)
        return task

    return declare


def moment(timestamp: int) -> datetime:
    """Return the moment that a task is run for."""
    return datetime.fromtimestamp(timestamp, UTC)


def run_due(at: datetime) -> None:
    """Run every declared task once, as if it were due at a moment."""
    for task in _declared:
        done = task.func(timestamp=int(at.timestamp()))
        if inspect.isawaitable(done):
            asyncio.run(_await(done))


async def _await(done: Awaitable[object]) -> None:
    async with app.open_async():
        await done
