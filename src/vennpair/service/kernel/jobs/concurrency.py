"""Many outside calls in flight at once, their outcomes settled in one place.

Threads only call; the database is touched by the caller's thread alone. 16 in flight reach over 90
% of what a platform's latency allows (LIMITS C).
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import FIRST_COMPLETED, Future, ThreadPoolExecutor, wait
from typing import TypeVar

from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError

IN_FLIGHT = 16

Work = TypeVar("Work")
Result = TypeVar("Result")
Outcome = tuple[Work, Result | OutsideError]


class WorkQueue(Iterator[Work]):
    """Work that grows while it is done: what follows from one piece is added when that is
    settled.
    """

    def __init__(self, work: Iterable[Work]) -> None:
        self._waiting = deque(work)

    def add(self, work: Work) -> None:
        """Put one more piece at the end."""
        self._waiting.append(work)

    def __next__(self) -> Work:
        if not self._waiting:
            raise StopIteration
        return self._waiting.popleft()


def run_concurrently(
    work: Iterable[Work],
    call: Callable[[Work], Result],
    settle: Callable[[list[Outcome[Work, Result]]], None],
    go_on: Callable[[], bool],
    width: int = IN_FLIGHT,
) -> None:
    """Call for each piece of work, ``width`` at once; ``settle`` gets what has come back, a few at
    a time.

    Work is taken only when there is room for it; what settling adds to a ``WorkQueue`` is taken too.
    Where the other side asks for patience, or ``go_on`` says no, nothing more is begun and what is
    in flight is settled. Raises the OutsideError that asked for patience.
    """
    pending: dict[Future[Result], Work] = {}
    source, later, going = iter(work), None, True
    with ThreadPoolExecutor(max_workers=width) as pool:

        def fill() -> None:
            while len(pending) < width and (each := next(source, None)) is not None:
                pending[pool.submit(call, each)] = each

        while True:
            going = going and later is None and go_on()
            if going:
                fill()
            if not pending:
                break
            done, _ = wait(pending, return_when=FIRST_COMPLETED)
            outcomes = _landed(done, pending)
            later = later or next(
                (
                    result
                    for _, result in outcomes
                    if isinstance(result, OutsideError) and result.failure.kind is FailureKind.LATER
                ),
                None,
            )
            if going and later is None:
                fill()  # before the database is touched, so that no slot waits for it
            settle(outcomes)
    if later is not None:
        raise later


def _landed(
    done: Iterable[Future[Result]], pending: dict[Future[Result], Work]
) -> list[Outcome[Work, Result]]:
    outcomes: list[Outcome[Work, Result]] = []
    for future in done:
        each = pending.pop(future)
        try:
            outcomes.append((each, future.result()))
        except OutsideError as error:
            outcomes.append((each, error))
    return outcomes
