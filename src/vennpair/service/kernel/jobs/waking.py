"""What a worker does first."""

from __future__ import annotations

from datetime import datetime

from vennpair.service.kernel.hooks import Hook

# Called with the present moment: take up what a killed worker left, beside jobs.
worker_begins: Hook[[datetime], int] = Hook()
