"""Hold points of the stand-ins, from a test's side (``vennpair.standins.holding``)."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

import httpx

from tools.world.world import World
from vennpair.client import VennPair
from vennpair.client.schema import Job

SECONDS = 100  # generous: a busy machine is slow, and a deadline that passes is a failure


class Held:
    """One hold point that was set."""

    def __init__(self, address: str, headers: dict[str, str]) -> None:
        self._address, self._headers = address, headers

    def now(self) -> dict[str, Any]:
        """Return what came: ``came`` calls that fit, ``held`` of them waiting now."""
        return dict(httpx.get(self._address, headers=self._headers, timeout=20).json())

    def wait(self, count: int = 1) -> None:
        """Wait until so many calls are held. Raises AssertionError with what came instead."""
        until(
            lambda: self.now()["held"] >= count, lambda: f"{count} calls to be held: {self.now()}"
        )

    def came(self, count: int) -> None:
        """Wait until so many calls came. Raises AssertionError with what came instead."""
        until(lambda: self.now()["came"] >= count, lambda: f"{count} calls to come: {self.now()}")

    def release(self) -> None:
        """Let go what is held, and hold nothing more; a stand-in that is down holds nothing."""
        try:
            httpx.delete(self._address, headers=self._headers, timeout=20)
        except httpx.TransportError:
            return


@contextmanager
def hold(world: World, site: str, method: str, path: str, **wanted: Any) -> Iterator[Held]:
    """Set a hold point while inside; without more, calls that fit are held before they are
    carried out. ``wanted`` are the fields of ``HoldPoint``.
    """
    wanted = wanted if {"hold", "status", "seconds"} & set(wanted) else wanted | {"hold": "before"}
    headers = {"X-Hold-Key": world.state["secrets"][site]}
    body = {"method": method, "path": path, **wanted}
    address = f"{world.url(site)}/hold-points"
    made = httpx.post(address, json=body, headers=headers, timeout=20)
    assert made.status_code == 201, made.text
    held = Held(f"{address}/{made.json()['number']}", headers)
    try:
        yield held
    finally:
        held.release()


def until(holds: Callable[[], Any], saw: Callable[[], Any], seconds: float = SECONDS) -> None:
    """Wait until a condition holds. Raises AssertionError with what was seen at the deadline."""
    deadline = time.monotonic() + seconds
    while not holds():
        assert time.monotonic() < deadline, f"waited {seconds:.0f} s for {saw()}"
        time.sleep(0.05)


def until_job(venn: VennPair, job: str, state: str, seconds: float = SECONDS) -> Job:
    """Wait until a job is in a state; return it. Raises AssertionError with the job as it is."""
    until(lambda: venn.job(job)["state"] == state, lambda: f"{state}: {venn.job(job)}", seconds)
    return venn.job(job)
