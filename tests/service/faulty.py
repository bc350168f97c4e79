"""A proxy before the campus that answers wrongly when it is told to, and keeps count."""

from __future__ import annotations

import json
import threading
import time
from collections import Counter
from collections.abc import Callable
from http.server import BaseHTTPRequestHandler
from typing import Any

import urllib3

from tests.service.servers import serve

Fault = Callable[
    [str, str, dict[str, Any]], tuple[int, dict[str, str], dict[str, Any]] | str | None
]


class FaultyCampus:
    """Hands requests on to the campus.

    ``fault`` is asked before each one: an answer that it gives is sent in the campus's place;
    ``"lose"`` lets the campus do it and loses the answer.
    """

    def __init__(self, campus: str) -> None:
        self.fault: Fault = lambda method, path, body: None
        self.wait = 0.0
        self.offers: list[str] | None = (
            None  # what it says that it offers; None: what the campus says
        )
        self.writes: Counter[str] = Counter()
        self.widest = 0
        self._flying = 0
        self._lock = threading.Lock()
        self._pool = urllib3.PoolManager(maxsize=32, retries=False)
        outer = self

        class Handler(BaseHTTPRequestHandler):
            protocol_version = "HTTP/1.1"

            def do_GET(self) -> None:
                outer._serve(self, campus)

            do_POST = do_PATCH = do_DELETE = do_PUT = do_GET

            def log_message(self, *words: Any) -> None:
                return

        self._http = serve(Handler)
        self.url = f"http://127.0.0.1:{self._http.server_port}"

    def close(self) -> None:
        """Stop listening."""
        self._http.shutdown()
        self._http.server_close()

    def _serve(self, request: BaseHTTPRequestHandler, campus: str) -> None:
        data = request.rfile.read(int(request.headers.get("Content-Length") or 0))
        body = json.loads(data) if data[:1] == b"{" else {}
        with self._lock:
            self._flying += 1
            self.widest = max(self.widest, self._flying)
            if request.command != "GET":
                self.writes[
                    f"{request.command} {body.get('title') or request.path.rsplit('/', 1)[-1]}"
                ] += 1
        time.sleep(self.wait)
        try:
            answer = self.fault(request.command, request.path, body)
            if isinstance(answer, tuple):
                self._answer(request, answer[0], answer[1], json.dumps(answer[2]).encode())
                return
            headers = {
                name: value
                for name, value in request.headers.items()
                if name.lower() not in {"host", "content-length"}
            }
            real = self._pool.request(
                request.command, campus + request.path, body=data or None, headers=headers
            )
            if answer == "lose":
                request.close_connection = True
                return
            data = real.data
            if (
                self.offers is not None
                and request.command == "GET"
                and request.path.endswith("/outline")
            ):
                data = json.dumps(json.loads(data) | {"offers": self.offers}).encode()
            self._answer(
                request,
                real.status,
                {"Content-Type": real.headers.get("Content-Type", "application/json")},
                data,
            )
        finally:
            with self._lock:
                self._flying -= 1

    def _answer(
        self, request: BaseHTTPRequestHandler, status: int, headers: dict[str, str], data: bytes
    ) -> None:
        request.send_response(status)
        for name, value in headers.items():
            request.send_header(name, value)
        request.send_header("Content-Length", str(len(data)))
        request.end_headers()
        request.wfile.write(data)
