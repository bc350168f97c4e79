"""Rotating our keys on schedule."""

from __future__ import annotations

from procrastinate.contrib.django import app

from vennpair.service.connect.actions.rotate_keys import rotate_on_schedule
from vennpair.service.kernel.jobs.periodic import every


@every("41 3 * * *")
@app.task(queue="jobs", queueing_lock="rotate_keys")
def rotate_keys(timestamp: int) -> None:
    """Once a night: publish the next key in time, withdraw what has served."""
    rotate_on_schedule()
