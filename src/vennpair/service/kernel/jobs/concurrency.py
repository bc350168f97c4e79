"""Many outside calls in flight at once, their outcomes settled in one place.

Threads only call; the database is touched by the caller's thread alone. 16 in flight reach over 90
% of what a platform's latency allows (LIMITS C).
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Iterator
from typing import Any, TypeVar

from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.service.kernel.jobs.dispatcher import Dispatcher, Landed

IN_FLIGHT = 16
LOOK_SECONDS = 0.3  # between looks whether to go on, while nothing comes back

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

    Work is taken only when there is room for it; what settling adds to a ``WorkQueue`` is taken
    too. Where the other side asks for patience, or ``go_on`` says no, nothing more is begun and
    what is in flight is settled. Raises the OutsideError that asked for patience.
    """
    source, later = iter(work), None
    with Dispatcher(call, width) as dispatcher:
        while True:
            dispatcher.going = later is None and go_on()
            _begin(dispatcher, source)
            if not dispatcher.flying:
                break
            landed = dispatcher.land(LOOK_SECONDS)
            outcomes: list[Outcome[Work, Result]] = [_outcome(each) for each in landed]
            later = later or next((each for _, each in outcomes if _asks_for_patience(each)), None)
            dispatcher.going = dispatcher.going and later is None
            _begin(dispatcher, source)  # before the database is touched, so that no slot waits
            if outcomes:
                settle(outcomes)
    if isinstance(later, OutsideError):
        raise later


def _begin(dispatcher: Dispatcher[Work, Result], source: Iterator[Work]) -> None:
    """Take as much work as there is room for."""
    while dispatcher.going and dispatcher.room > 0:
        try:
            dispatcher.ready.append(next(source))
        except StopIteration:
            break
    dispatcher.launch()


def _outcome(landed: Landed[Work, Any]) -> tuple[Work, Any]:
    """Return what came of a call; raises what no other side has caused."""
    if isinstance(landed.error, OutsideError):
        return landed.work, landed.error
    if landed.error is not None:
        raise landed.error
    return landed.work, landed.result


def _asks_for_patience(result: object) -> bool:
    return isinstance(result, OutsideError) and result.failure.kind is FailureKind.LATER
