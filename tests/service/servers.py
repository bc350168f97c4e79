"""Servers of the tests' own, each at an address that no other had: the service knows a platform by
its address, also after that platform has closed and its port was given to another.
"""

from __future__ import annotations

import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

_taken: set[int] = set()


class Server(ThreadingHTTPServer):
    """Takes many connections at once: with fewer, those that come together are dropped and come
    again a second later.
    """

    request_queue_size = 128


def serve(handler: type[BaseHTTPRequestHandler]) -> Server:
    """Begin a server, in a thread."""
    unfit: list[Server] = []
    while (made := Server(("127.0.0.1", 0), handler)).server_port in _taken:
        unfit.append(made)  # closed only once another port was given
    for each in unfit:
        each.server_close()
    _taken.add(made.server_port)
    threading.Thread(target=made.serve_forever, daemon=True).start()
    return made
