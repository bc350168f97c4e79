"""The calls of one relay in the air: threads take work as the throttle lets them, and never wait for
the database.

What comes back is picked up by the caller's thread, which alone writes. Work is taken ahead, so
that writing does not keep calls from being made.
"""

from __future__ import annotations

import threading
from collections import deque
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from queue import Empty, SimpleQueue
from typing import Any, cast

from django.utils import timezone

from vennpair.core.relay.pace import WIDEST
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.relay.calls import Call, Look, Send, with_patience
from vennpair.service.relay.claiming import Sending
from vennpair.service.relay.throttle import CLOSED, Throttle


@dataclass(frozen=True, slots=True)
class Landed:
    """A call that came back: its result, or what went wrong."""

    call: Call
    result: Any = None
    error: BaseException | None = None


class Dispatcher:
    """Calls ready, in the air and landed."""

    def __init__(self, gateway: PlatformGateway, throttle: Throttle) -> None:
        self._gateway, self._throttle = gateway, throttle
        self.ready: deque[Call] = deque()
        self.going = True
        self._landed: SimpleQueue[Landed] = SimpleQueue()
        self._lock = threading.Lock()
        self._threads = 0
        self._pool = ThreadPoolExecutor(WIDEST)

    def close(self) -> None:
        """Wait for the threads; nothing is in the air any more."""
        self._pool.shutdown()

    @property
    def flying(self) -> bool:
        """Say whether anything is in the air, or has landed and was not picked up."""
        with self._lock:
            return self._threads > 0 or not self._landed.empty()

    def launch(self) -> None:
        """Let as many threads take work as there is work and room for."""
        while self.going and self.ready:
            with self._lock:
                if (
                    self._threads >= min(WIDEST, self._throttle.wide)
                    or self._threads >= len(self.ready) + WIDEST // 2
                ):
                    return
                self._threads += 1
            self._pool.submit(self._work)

    def land(self, seconds: float) -> list[Landed]:
        """Return what has come back, after waiting so long for the first of it."""
        found: list[Landed] = []
        try:
            found.append(self._landed.get(timeout=seconds))
            while True:
                found.append(self._landed.get_nowait())
        except Empty:
            return found

    def first(self, calls: Iterable[Call]) -> None:
        """Put calls before all others."""
        self.ready.extendleft(calls)

    def _work(self) -> None:
        try:
            while self.going and (call := self._next()) is not None:
                self._landed.put(self._made(call))
        finally:
            with self._lock:
                self._threads -= 1

    def _next(self) -> Call | None:
        try:
            call = self.ready.popleft()
        except IndexError:
            return None
        if self._throttle.enter():
            return call
        self.ready.appendleft(call)
        return None

    def _made(self, call: Call) -> Landed:
        try:
            result = call(self._gateway)
        except OutsideError as error:
            failure = with_patience(error.failure)
            self._throttle.leave(failure, timezone.now())
            if failure.code == CLOSED:
                self.ready.appendleft(call)
            return Landed(call, error=OutsideError(failure))
        except BaseException as error:
            self._throttle.leave(None, timezone.now())
            return Landed(call, error=error)
        self._throttle.leave(None, timezone.now())
        if isinstance(call, Look):
            looked = cast("list[Sending]", result)
            self.first(
                Send(each, self._throttle.hindered) for each in looked if each.failure is None
            )
        return Landed(call, result)
