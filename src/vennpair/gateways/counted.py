"""Counts of outgoing calls, for whoever monitors the service."""

from __future__ import annotations

from prometheus_client import Counter, Histogram

from vennpair.core.failures import Failure

CALLS = Counter(
    "vennpair_outside_calls", "Calls to other systems by outcome.", ["system", "outcome"]
)
SECONDS = Histogram(
    "vennpair_outside_call_seconds",
    "How long they took.",
    ["system"],
    buckets=(0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30, 60),
)
PAUSES = Counter("vennpair_pauses", "Pauses that other systems asked for (HTTP 429).", ["system"])


def count_call(system: str, failure: Failure | None, seconds: float) -> None:
    """Count a call that came back, with what went wrong where something did."""
    CALLS.labels(system, failure.code if failure else "ok").inc()
    SECONDS.labels(system).observe(seconds)
