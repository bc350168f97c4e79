"""Many calls in flight: never more than asked, each settled once, and an end where patience is
asked for.
"""

from __future__ import annotations

import threading
from typing import Any

import pytest

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.service.kernel.jobs.concurrency import run_concurrently

pytestmark = pytest.mark.timed


def failure(kind: FailureKind) -> OutsideError:
    return OutsideError(Failure(kind, "x", "no", "wait"))


def test_all_are_settled_once_and_no_more_fly_than_asked() -> None:
    flying, widest, lock = 0, 0, threading.Lock()
    together = threading.Barrier(5, timeout=10)  # the first five come back only together

    def call(number: int) -> int:
        nonlocal flying, widest
        with lock:
            flying += 1
            widest = max(widest, flying)
        if number < 5:
            together.wait()
        with lock:
            flying -= 1
        if number == 7:
            raise failure(FailureKind.NEVER)
        return number * 2

    settled: list[tuple[int, Any]] = []
    run_concurrently(range(40), call, settled.extend, lambda: True, width=5)
    assert sorted(number for number, _ in settled) == list(range(40))
    assert isinstance(dict(settled)[7], OutsideError)
    assert dict(settled)[8] == 16
    assert widest == 5


def test_where_patience_is_asked_for_nothing_more_begins_and_what_flies_is_settled() -> None:
    begun: list[int] = []
    asked_for = threading.Event()

    def call(number: int) -> int:
        begun.append(number)
        if number == 3:
            asked_for.set()
            raise failure(FailureKind.LATER)
        assert asked_for.wait(10)
        return number

    settled: list[tuple[int, Any]] = []
    with pytest.raises(OutsideError):
        run_concurrently(range(100), call, settled.extend, lambda: True, width=4)
    assert sorted(number for number, _ in settled) == sorted(begun)
    assert len(begun) < 20


def test_it_stops_when_told_and_takes_work_only_when_there_is_room() -> None:
    taken: list[int] = []

    def work() -> Any:
        for number in range(100):
            taken.append(number)
            yield number

    settled: list[tuple[int, Any]] = []
    run_concurrently(
        work(), lambda number: number, settled.extend, lambda: len(settled) < 10, width=2
    )
    assert 10 <= len(settled) <= 14
    assert len(taken) <= 16


def test_a_mistake_of_ours_is_not_swallowed() -> None:
    def call(number: int) -> int:
        raise KeyError(number)

    with pytest.raises(KeyError):
        run_concurrently(range(3), call, lambda outcomes: None, lambda: True)
