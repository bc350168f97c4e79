"""What each process counts of its own work, for whoever monitors the service. Names and labels are
a promise to dashboards: docs/operating.md lists them.
"""

from __future__ import annotations

import logging
from http import HTTPStatus

from prometheus_client import Counter, Histogram

REQUESTS = Counter(
    "vennpair_http_requests", "Requests by route and status.", ["route", "method", "status"]
)
REQUEST_SECONDS = Histogram(
    "vennpair_http_request_seconds",
    "How long they took.",
    ["route"],
    buckets=(0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30),
)
RECEIVED = Counter("vennpair_scores_received", "Reports of scores that were new.", ["via"])
SENT = Counter(
    "vennpair_scores_sent", "Scores sent to gradebooks by outcome.", ["platform", "outcome"]
)
LAG = Histogram(
    "vennpair_score_lag_seconds",
    "From the arrival of a report to its acceptance by the gradebook.",
    buckets=(1, 2, 5, 10, 30, 60, 300, 900, 3_600, 21_600, 86_400),
)
STEPS = Counter("vennpair_steps", "Writes of rollouts and settlements.", ["kind", "outcome"])
JOBS = Counter(
    "vennpair_jobs_ended",
    "Jobs that ended, comparisons and rollouts among them.",
    ["kind", "outcome"],
)
FINDINGS = Counter("vennpair_findings", "Differences that comparisons found.", ["kind"])
_ERRORS = Counter("vennpair_logged_errors", "Errors that were logged.", ["logger"])


class CountErrors(logging.Handler):
    """Counts what is logged as an error, from whatever part of the service."""

    def emit(self, record: logging.LogRecord) -> None:
        """Count it, but for answers of an outage: the database is at fault, and watched itself."""
        if getattr(record, "status_code", None) == HTTPStatus.SERVICE_UNAVAILABLE:
            return
        _ERRORS.labels(record.name).inc()
