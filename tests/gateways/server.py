"""A small real server that gateways are tried against."""

from __future__ import annotations

import json
import threading
from collections.abc import Callable
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any


class Server:
    """Answers from a list of (status, headers, body), then with the last one, or ``by`` the path.

    Remembers what it was asked, and by how many connections. With ``keeps`` a connection is good for
    several requests.
    """

    def __init__(self, *, keeps: bool = False) -> None:
        self.connections = 0
        self.answers: list[tuple[int, dict[str, str], Any]] = []
        self.asked: list[tuple[str, str, dict[str, str]]] = []
        self.by: Callable[[str], tuple[int, dict[str, str], Any]] | None = None
        outer = self

        class Handler(BaseHTTPRequestHandler):
            protocol_version = "HTTP/1.1" if keeps else "HTTP/1.0"
            disable_nagle_algorithm = True

            def setup(self) -> None:
                outer.connections += 1
                super().setup()

            def do_GET(self) -> None:
                outer.asked.append((self.command, self.path, dict(self.headers)))
                self.rfile.read(int(self.headers.get("Content-Length") or 0))
                status, headers, body = (
                    outer.by(self.path)
                    if outer.by
                    else outer.answers.pop(0)
                    if len(outer.answers) > 1
                    else outer.answers[0]
                )
                data = body if isinstance(body, bytes) else json.dumps(body).encode()
                self.send_response(status)
                for name, value in headers.items():
                    self.send_header(name, value)
                self.send_header("Content-Length", str(len(data)))
                self.end_headers()
                self.wfile.write(data)

            do_POST = do_PUT = do_GET

            def log_message(self, *words: Any) -> None:
                return

        self._http = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
        self._http.daemon_threads = True
        self.url = f"http://127.0.0.1:{self._http.server_port}"
        threading.Thread(target=self._http.serve_forever, daemon=True).start()

    def close(self) -> None:
        """Stop listening."""
        self._http.shutdown()
        self._http.server_close()
