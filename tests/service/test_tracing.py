"""Traces, as a collector of the operator's gets them."""

from __future__ import annotations

import signal
import threading
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

import pytest
from opentelemetry.proto.collector.trace.v1.trace_service_pb2 import ExportTraceServiceRequest
from opentelemetry.sdk.trace import TracerProvider
from opentelemetry.sdk.trace.export import SimpleSpanProcessor
from opentelemetry.sdk.trace.export.in_memory_span_exporter import InMemorySpanExporter
from opentelemetry.trace import StatusCode
from tools.world.world import World

from tests.conftest import Sides
from tests.service.test_server import GOOD, answers, running, until
from vennpair.client import VennPair
from vennpair.service import settings_check
from vennpair.service.kernel.collector import told_of

COLLECTOR = "OTEL_EXPORTER_OTLP_ENDPOINT"
LEARNER = "ada.lindqvist@tarnfield.example"


@dataclass(frozen=True)
class Told:
    """A span: of which service, its name, and what is said of it."""

    service: str
    name: str
    trace: bytes
    facts: dict[str, str]
    rest: str


@pytest.fixture
def collector() -> Iterator[tuple[str, list[Told]]]:
    """Receive traces on loopback (OTLP over HTTP)."""
    told: list[Told] = []

    class Receive(BaseHTTPRequestHandler):
        def do_POST(self) -> None:
            body = self.rfile.read(int(self.headers["Content-Length"]))
            assert self.path == "/v1/traces"
            for source in ExportTraceServiceRequest.FromString(body).resource_spans:
                of = {each.key: each.value.string_value for each in source.resource.attributes}
                told.extend(
                    Told(
                        of["service.name"],
                        span.name,
                        span.trace_id,
                        {each.key: str(each.value) for each in span.attributes},
                        f"{span.events} {span.status}",
                    )
                    for scope in source.scope_spans
                    for span in scope.spans
                )
            self.send_response(200)
            self.send_header("Content-Length", "0")
            self.end_headers()

        def log_message(self, format: str, *args: object) -> None:
            """Say nothing."""

    server = ThreadingHTTPServer(("127.0.0.1", 0), Receive)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}", told
    server.shutdown()
    server.server_close()


def test_requests_jobs_and_calls_are_traced_and_name_no_learner(
    world: World,
    venn: VennPair,
    new_pairing: Callable[[str], tuple[Sides, str]],
    collector: tuple[str, list[Told]],
    tmp_path: Path,
) -> None:
    _, pairing = new_pairing("HYD 210-TRACED")
    address, told = collector
    world.end("worker")
    try:
        with running(world, tmp_path / "all.log", **{COLLECTOR: address}) as (process, base):
            until(lambda: answers(base))
            there = VennPair(base)
            there._http.headers["Authorization"] = venn._http.headers["Authorization"]
            asked = there._http.get("/search", params={"text": LEARNER})
            there.wait(there.compare(pairing)["job"])
            process.send_signal(signal.SIGTERM)  # what is not sent yet is sent at the end
            assert process.wait(60) == 0
    finally:
        world.start_worker()
    assert {each.service for each in told} == {"vennpair-web", "vennpair-work"}
    number = asked.headers["X-Request-ID"]
    (request,) = [each for each in told if number in each.facts.get("vennpair.request_id", "")]
    assert "search" in request.name
    # What other tests of this world left in the queue is taken up as well.
    jobs = [each for each in told if each.name == "job"]
    (job,) = [each for each in jobs if pairing in each.facts["vennpair.pairing"]]
    assert "comparison" in job.facts["vennpair.kind"]
    within = [each.name for each in told if each.trace == job.trace]
    assert any(name.startswith("GET") for name in within), "both sides were asked in it"
    assert any(name.startswith(("SELECT", "INSERT")) for name in within), within
    assert not [each for each in told if LEARNER.split("@")[0] in str(each)]


def test_of_an_error_its_class_is_told_and_not_its_words() -> None:
    kept = InMemorySpanExporter()
    provider = TracerProvider()
    provider.add_span_processor(SimpleSpanProcessor(kept))
    with (
        pytest.raises(ValueError, match="ada"),
        provider.get_tracer("test").start_as_current_span("job", attributes={"url.query": LEARNER}),
    ):
        raise ValueError(f"{LEARNER} is no learner of this shell")
    (span,) = kept.get_finished_spans()
    assert LEARNER in span.to_json(), "the library tells it"
    told = told_of(span)
    assert LEARNER not in told.to_json()
    assert told.attributes == {"error.type": "ValueError"}
    assert (told.status.status_code, told.context) == (StatusCode.ERROR, span.context)


def test_a_form_that_is_not_spoken_is_said_at_the_start() -> None:
    wanted = GOOD | {COLLECTOR: "http://127.0.0.1:4317", "OTEL_EXPORTER_OTLP_PROTOCOL": "grpc"}
    (said,) = settings_check.troubles(wanted)
    assert said.startswith(COLLECTOR)
    assert "http/protobuf" in said
    assert settings_check.troubles(wanted | {"OTEL_SDK_DISABLED": "true"}) == []
