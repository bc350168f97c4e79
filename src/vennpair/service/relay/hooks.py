"""What the relay asks of the apps above it (kernel/hooks.py)."""

from __future__ import annotations

from datetime import datetime

from vennpair.service.kernel.hooks import Hook
from vennpair.service.pair.models import Pairing

# How many scores the publisher has sent no report of to this day, and when that was found.
unreported_scores: Hook[[Pairing], tuple[int, datetime | None]] = Hook()
