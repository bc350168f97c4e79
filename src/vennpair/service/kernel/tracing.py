"""Traces of requests, jobs and outgoing calls for a collector that the operator runs, where the
usual environment variables of OpenTelemetry name one; without them nothing of it is loaded. What of
a trace leaves the machine is decided in ``collector.py``.
"""

from __future__ import annotations

import os
from collections.abc import Iterator, Mapping
from contextlib import contextmanager

COLLECTORS = ("OTEL_EXPORTER_OTLP_TRACES_ENDPOINT", "OTEL_EXPORTER_OTLP_ENDPOINT")
_begun = False


def asked(environment: Mapping[str, str]) -> str:
    """Return the variable that names a collector, empty where no traces are wanted."""
    off = environment.get("OTEL_SDK_DISABLED", "").lower() == "true"
    if off or environment.get("OTEL_TRACES_EXPORTER", "otlp") != "otlp":
        return ""
    return next((name for name in COLLECTORS if environment.get(name)), "")


def begin(part: str) -> None:
    """Trace this process, ``web`` or ``work``, where the environment asks for it; call it in the
    process that serves, as what sends the traces is a thread of it.
    """
    global _begun
    if _begun or not asked(os.environ):
        return
    from vennpair.service.kernel import collector

    collector.begin(part)
    _begun = True


@contextmanager
def span(name: str, **facts: str) -> Iterator[None]:
    """Trace what happens inside; costs nothing where no traces are wanted."""
    if not _begun:
        yield
        return
    from opentelemetry import trace

    with trace.get_tracer("vennpair").start_as_current_span(name, attributes=_named(facts)):
        yield


def tell(**facts: str) -> None:
    """Tell more of what is traced at this moment, such as the id that the log has too."""
    if _begun:
        from opentelemetry import trace

        trace.get_current_span().set_attributes(_named(facts))


def _named(facts: Mapping[str, str]) -> dict[str, str]:
    return {f"vennpair.{name}": value for name, value in facts.items()}
