"""Traces of requests, jobs and outgoing calls for a collector that the operator runs, where the
usual environment variables of OpenTelemetry name one; without them nothing of it is loaded.

A trace leaves the machine, so it names no learner: of addresses only the path is told, of
statements no values, and of a browser neither its address nor its kind.
"""

from __future__ import annotations

import os
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from typing import TYPE_CHECKING
from urllib.parse import urlsplit

from vennpair import __version__

if TYPE_CHECKING:
    from django.http import HttpRequest
    from opentelemetry.sdk.trace import Span

COLLECTORS = ("OTEL_EXPORTER_OTLP_TRACES_ENDPOINT", "OTEL_EXPORTER_OTLP_ENDPOINT")
# Where the semantic conventions, older and newer, put an address or the end of one.
ADDRESSES = ("http.url", "http.target", "url.full")
OF_PEOPLE = (
    *("url.query", "http.user_agent", "user_agent.original"),
    *("http.client_ip", "client.address"),
    *("net.peer.ip", "net.sock.peer.addr", "network.peer.address"),
)
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
    from opentelemetry import trace
    from opentelemetry.exporter.otlp.proto.http.trace_exporter import OTLPSpanExporter
    from opentelemetry.instrumentation.django import DjangoInstrumentor
    from opentelemetry.instrumentation.psycopg import PsycopgInstrumentor
    from opentelemetry.instrumentation.threading import ThreadingInstrumentor
    from opentelemetry.instrumentation.urllib3 import URLLib3Instrumentor
    from opentelemetry.sdk.resources import Resource
    from opentelemetry.sdk.trace import TracerProvider
    from opentelemetry.sdk.trace.export import BatchSpanProcessor

    os.environ.setdefault("OTEL_SERVICE_NAME", f"vennpair-{part}")
    provider = TracerProvider(resource=Resource.create({"service.version": __version__}))
    provider.add_span_processor(BatchSpanProcessor(OTLPSpanExporter()))
    trace.set_tracer_provider(provider)
    DjangoInstrumentor().instrument(request_hook=_cut)
    URLLib3Instrumentor().instrument(url_filter=path_of)
    PsycopgInstrumentor().instrument()
    ThreadingInstrumentor().instrument()  # a job's calls are made in threads, and belong to it
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


def path_of(address: str) -> str:
    """Return an address without query and fragment, which may name a learner."""
    return urlsplit(address)._replace(query="", fragment="").geturl()


def tell(**facts: str) -> None:
    """Tell more of what is traced at this moment, such as the id that the log has too."""
    if _begun:
        from opentelemetry import trace

        trace.get_current_span().set_attributes(_named(facts))


def _named(facts: Mapping[str, str]) -> dict[str, str]:
    return {f"vennpair.{name}": value for name, value in facts.items()}


def _cut(traced: Span, request: HttpRequest) -> None:
    """Cut off a request that begins what may name a person."""
    for name, value in dict(traced.attributes or {}).items():
        if name in OF_PEOPLE:
            traced.set_attribute(name, "")
        elif name in ADDRESSES and isinstance(value, str):
            traced.set_attribute(name, path_of(value))
