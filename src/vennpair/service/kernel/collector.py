"""What of this process is traced, and what of it a collector gets.

A trace leaves the machine, so it names no learner: of addresses only the path is told, of
statements no values, of a browser neither its address nor its kind, and of an error its class and
not its words, which may name a person.
"""

from __future__ import annotations

import os
from collections.abc import Sequence
from urllib.parse import urlsplit

from opentelemetry import trace
from opentelemetry.exporter.otlp.proto.http.trace_exporter import OTLPSpanExporter
from opentelemetry.instrumentation.django import DjangoInstrumentor
from opentelemetry.instrumentation.psycopg import PsycopgInstrumentor
from opentelemetry.instrumentation.threading import ThreadingInstrumentor
from opentelemetry.instrumentation.urllib3 import URLLib3Instrumentor
from opentelemetry.sdk.resources import Resource
from opentelemetry.sdk.trace import ReadableSpan, TracerProvider
from opentelemetry.sdk.trace.export import BatchSpanProcessor, SpanExportResult
from opentelemetry.trace import Status
from opentelemetry.util.types import AttributeValue

from vennpair import __version__

# Where the semantic conventions, older and newer, put an address or the end of one.
ADDRESSES = ("http.url", "http.target", "url.full")
OF_PEOPLE = (
    *("url.query", "http.user_agent", "user_agent.original"),
    *("http.client_ip", "client.address"),
    *("net.peer.ip", "net.sock.peer.addr", "network.peer.address"),
)


def begin(part: str) -> None:
    """Trace this process, ``web`` or ``work``: its requests, outgoing calls and statements."""
    os.environ.setdefault("OTEL_SERVICE_NAME", f"vennpair-{part}")
    provider = TracerProvider(resource=Resource.create({"service.version": __version__}))
    provider.add_span_processor(BatchSpanProcessor(_Discreet()))
    trace.set_tracer_provider(provider)
    DjangoInstrumentor().instrument()
    URLLib3Instrumentor().instrument()
    PsycopgInstrumentor().instrument()
    ThreadingInstrumentor().instrument()  # a job's calls are made in threads, and belong to it


class _Discreet(OTLPSpanExporter):
    """Sends what may leave the machine, whichever library traced it."""

    def export(self, spans: Sequence[ReadableSpan]) -> SpanExportResult:
        return super().export([told_of(each) for each in spans])


def told_of(span: ReadableSpan) -> ReadableSpan:
    """Return a span without what may name a person: its events and the words of its status are
    gone, as both repeat an error's own; an error's class is told as ``error.type``.
    """
    facts = {
        name: path_of(value) if name in ADDRESSES else value
        for name, value in (span.attributes or {}).items()
        if name not in OF_PEOPLE
    }
    return ReadableSpan(
        span.name,
        context=span.context,
        parent=span.parent,
        resource=span.resource,
        attributes=_errors(span) | facts,
        links=span.links,
        kind=span.kind,
        status=Status(span.status.status_code),
        start_time=span.start_time,
        end_time=span.end_time,
        instrumentation_scope=span.instrumentation_scope,
    )


def path_of(address: AttributeValue) -> str:
    """Return an address without query and fragment, which may name a learner."""
    return urlsplit(str(address))._replace(query="", fragment="").geturl()


def _errors(span: ReadableSpan) -> dict[str, AttributeValue]:
    for event in span.events:
        if kind := (event.attributes or {}).get("exception.type"):
            return {"error.type": kind}
    return {}
