"""Many outside calls in the air at once: threads take work as there is room for it, and never wait
for the database.

What comes back is picked up by the caller's thread, which alone writes.
"""

from __future__ import annotations

import threading
from collections import deque
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from queue import Empty, SimpleQueue
from types import TracebackType
from typing import Generic, Self, TypeVar

Work = TypeVar("Work")
Result = TypeVar("Result")


@dataclass(frozen=True, slots=True)
class Landed(Generic[Work, Result]):
    """Work whose call came back: its result, or what went wrong."""

    work: Work
    result: Result | None
    error: BaseException | None = None


class Dispatcher(Generic[Work, Result]):
    """Work ready, in the air and landed; ``widest`` is how much of it is ever in the air at once.

    Work is put into ``ready``; nothing more is begun once ``going`` is false. As a context, leaving
    it waits for what is in the air.
    """

    def __init__(self, call: Callable[[Work], Result], widest: int) -> None:
        self._call, self._widest = call, widest
        self.ready: deque[Work] = deque()
        self.going = True
        self._landed: SimpleQueue[Landed[Work, Result]] = SimpleQueue()
        self._lock = threading.Lock()
        self._threads = self._calling = 0
        self._pool = ThreadPoolExecutor(widest)

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self.going = False
        self.close()

    def close(self) -> None:
        """Wait for the threads; nothing is in the air any more."""
        self._pool.shutdown()

    @property
    def flying(self) -> bool:
        """Say whether anything is in the air, or has landed and was not picked up."""
        with self._lock:
            return self._threads > 0 or not self._landed.empty()

    @property
    def room(self) -> int:
        """Return how much more work could be begun now, beside what is ready."""
        with self._lock:
            return self.width - self._calling - len(self.ready)

    @property
    def width(self) -> int:
        """How much may be in the air now, at most ``widest``."""
        return self._widest

    def launch(self) -> None:
        """Let as many threads take work as there is work and room for."""
        while self.going and self.ready:
            with self._lock:
                idle = self._threads - self._calling
                if self._threads >= min(self._widest, self.width) or idle >= len(self.ready):
                    return
                self._threads += 1
            self._pool.submit(self._work)

    def land(self, seconds: float) -> list[Landed[Work, Result]]:
        """Return what has come back, after waiting so long for the first of it."""
        found: list[Landed[Work, Result]] = []
        try:
            found.append(self._landed.get(timeout=seconds))
            while True:
                found.append(self._landed.get_nowait())
        except Empty:
            return found

    def first(self, work: Iterable[Work]) -> None:
        """Put work before all other."""
        self.ready.extendleft(work)

    def may_begin(self) -> bool:
        """Say, in the thread that would, whether a call may be begun; it is not, and comes first
        later, where it may not.
        """
        return True

    def made(self, work: Work) -> Landed[Work, Result]:
        """Make the call, in a thread of its own."""
        try:
            return Landed(work, self._call(work))
        except BaseException as error:
            return Landed(work, None, error)

    def _work(self) -> None:
        try:
            while self.going and (work := self._next()) is not None:
                try:
                    self._landed.put(self.made(work))
                finally:
                    with self._lock:
                        self._calling -= 1
        finally:
            with self._lock:
                self._threads -= 1

    def _next(self) -> Work | None:
        with self._lock:
            if not self.ready:
                return None
            work = self.ready.popleft()
            self._calling += 1
        if self.may_begin():
            return work
        with self._lock:
            self.ready.appendleft(work)
            self._calling -= 1
        return None
