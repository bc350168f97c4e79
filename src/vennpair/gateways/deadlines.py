"""The connections of outside calls, and a total deadline for each call: connecting, headers and the
whole answer.

A timeout of the socket starts again with every byte; a side that drips one byte at a time would
hold a thread for ever. One watcher thread ends what is over its time by shutting its socket.
"""

from __future__ import annotations

import heapq
import itertools
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from math import inf
from typing import Any
from urllib.parse import unquote

import urllib3

from vennpair.gateways.addresses import addresses_of, trusted

# Servers close a connection that nobody uses, some of them after two seconds.
IDLE_SECONDS = 1.0
_mine = threading.local()
_count = itertools.count()
_changed = threading.Condition()
_heap: list[tuple[float, int, Deadline]] = []
_watching = False


class Deadline:
    """The end of one call; ``over`` is True once it was ended for taking too long."""

    def __init__(self, seconds: float) -> None:
        self.seconds, self.over, self.ended = seconds, False, False
        self._sock: Any = None

    def of(self, sock: Any) -> None:
        """Let this be the socket that the call waits on."""
        self._sock = sock
        if self.over:
            _shut(sock)

    def end(self) -> None:
        """End the call if it still goes on."""
        if not self.ended:
            self.over = True
            _shut(self._sock)


@contextmanager
def within(seconds: float) -> Iterator[Deadline]:
    """Give the calls of this thread so much time in all while inside."""
    made, before = Deadline(seconds), getattr(_mine, "deadline", None)
    _mine.deadline = made
    _watch(made)
    try:
        yield made
    finally:
        made.ended = True
        _mine.deadline = before


def _watch(made: Deadline) -> None:
    global _watching
    with _changed:
        heapq.heappush(_heap, (time.monotonic() + made.seconds, next(_count), made))
        if not _watching:
            _watching = True
            threading.Thread(target=_run, daemon=True, name="deadlines").start()
        _changed.notify()


def _run() -> None:
    while True:
        with _changed:
            while _heap and (_heap[0][2].ended or _heap[0][0] <= time.monotonic()):
                heapq.heappop(_heap)[2].end()
            _changed.wait(_heap[0][0] - time.monotonic() if _heap else None)


def _shut(sock: Any) -> None:
    if sock is not None:
        with suppress(OSError, ValueError):
            sock.shutdown(socket.SHUT_RDWR)


def _noted(connection: Any) -> None:
    """Tell the thread's deadline which socket it is about to wait on."""
    if (made := getattr(_mine, "deadline", None)) is not None:
        made.of(connection.sock)


def _connected(connection: Any) -> Any:
    """Connect to one of a name's addresses, after all were checked; or to the operator's proxy."""
    last: OSError | None = None
    try:
        found = (
            addresses_of(connection._dns_host, connection.port)
            if connection.proxy is None
            else [connection._dns_host]
        )
    except socket.gaierror as error:
        raise urllib3.exceptions.NameResolutionError(connection.host, connection, error) from error
    for address in found:
        try:
            return urllib3.util.connection.create_connection(
                (address, connection.port),
                connection.timeout,
                source_address=connection.source_address,
                socket_options=connection.socket_options,
            )
        except OSError as error:  # the next one may answer
            last = error
    if isinstance(last, TimeoutError):
        raise urllib3.exceptions.ConnectTimeoutError(connection, str(last)) from last
    raise urllib3.exceptions.NewConnectionError(connection, f"Failed to connect: {last}") from last


class _Http(urllib3.connection.HTTPConnection):
    def _new_conn(self) -> Any:
        return _connected(self)

    def connect(self) -> None:
        super().connect()
        _noted(self)

    def getresponse(self) -> Any:
        _noted(self)
        return super().getresponse()


class _Https(urllib3.connection.HTTPSConnection):
    def _new_conn(self) -> Any:
        return _connected(self)

    def connect(self) -> None:
        super().connect()
        _noted(self)

    def getresponse(self) -> Any:
        _noted(self)
        return super().getresponse()


class _Rested(urllib3.HTTPConnectionPool):
    """Keeps connections, and uses none that was idle for long: the other side may be closing it at
    this moment, and nobody could tell whether what is sent then was heard.
    """

    def _put_conn(self, conn: Any) -> None:
        if conn is not None:
            conn.idle_since = time.monotonic()
        super()._put_conn(conn)

    def _get_conn(self, timeout: float | None = None) -> Any:
        conn: Any = super()._get_conn(timeout)
        if time.monotonic() - getattr(conn, "idle_since", inf) > IDLE_SECONDS:
            conn.close()  # it connects again when it is used
        return conn


class _HttpPool(_Rested):
    ConnectionCls = _Http


class _HttpsPool(_Rested, urllib3.HTTPSConnectionPool):
    ConnectionCls = _Https


def pool_manager(proxy: str = "", **how: Any) -> urllib3.PoolManager:
    """Return a pool whose connections keep to the deadlines of their threads."""
    made = (
        urllib3.ProxyManager(proxy, proxy_headers=_named(proxy), ssl_context=trusted(), **how)
        if proxy
        else urllib3.PoolManager(ssl_context=trusted(), **how)
    )
    made.pool_classes_by_scheme = {"http": _HttpPool, "https": _HttpsPool}
    return made


def _named(proxy: str) -> dict[str, str]:
    """Return the header by which a proxy knows us, where its address brings a name."""
    named = urllib3.util.parse_url(proxy).auth
    return urllib3.util.make_headers(proxy_basic_auth=unquote(named)) if named else {}
