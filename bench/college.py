"""A college of 2,000 shells with 35 learners and 30 columns each: its lists, its first Monday
(5,000 launches in ten minutes), its Sunday night (100,000 scores in an hour, a tenth of them to a
slow platform), its nightly comparisons; and how all of it grows as the college doubles twice.

    python -m bench.college [--shells 2000] [--seconds 60] [--compared 100]

The other sides answer after 50 ms (the slow platform after one second). Each load is kept up for
``--seconds`` at its rate; whole it lasts 600 and 3,600. A world of its own is laid and taken away.
"""

from __future__ import annotations

import argparse
import os
import random
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path
from threading import Lock
from typing import Any

import httpx
import urllib3
from tests.service.platform import TestPlatform
from tools.world.cluster import free_port
from tools.world.world import World

from bench.college_laid import compare_every, lay_people, lay_shells, standing, teacher_token
from bench.relay import MEDIA, fill, reports
from vennpair.standards.lti import vocabulary as v

LEARNERS, COLUMNS, TEACHERS = 35, 30, 400
LAUNCHES_A_SECOND, SCORES_A_SECOND = 5_000 / 600, 100_000 / 3_600
FAST, SLOW, ASKED = 0.05, 1.0, 60
TICKS = os.sysconf("SC_CLK_TCK")
CUSTOM = "https://purl.imsglobal.org/spec/lti/claim/custom"
LINK = "https://purl.imsglobal.org/spec/lti/claim/resource_link"
LISTS = (
    *("/shells?limit=50", "/today", "/agreement", "/operations?limit=50", "/search?q=river"),
    *("/pairings/{}/scores?limit=50", "/pairings/{}/relay", "/pairings/{}/placements?limit=50"),
)


def main() -> None:
    """Run at a quarter, half and all of the size."""
    parser = argparse.ArgumentParser(
        description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter
    )
    parser.add_argument("--shells", type=int, default=2_000)
    parser.add_argument("--seconds", type=int, default=60)
    parser.add_argument("--compared", type=int, default=100)
    args = parser.parse_args()
    world = World("bench-college", kept=False, VENNPAIR_PERIODIC="false")
    world.start(fresh=True)
    platform = TestPlatform(world, "Bench launching")
    try:
        with (
            _other("bench.slow_sides", FAST, LEARNERS, COLUMNS) as sides,
            _other("bench.slow_platform", FAST) as fast,
            _other("bench.slow_platform", SLOW) as slow,
        ):
            lay_people(world, TEACHERS, sides)
            sunday = Sunday(world, fast, slow)
            launching: list[tuple[str, str]] = []
            for part in (4, 2, 1):
                laid = args.shells // part
                before = 0 if part == 4 else args.shells // (part * 2)
                began = time.monotonic()
                launching += lay_shells(
                    world, before, laid - before, LEARNERS, COLUMNS, sides, platform.issuer
                )
                cells = laid * LEARNERS * COLUMNS
                print(f"\n{laid:,} shells, {cells:,} cells (laid in {_since(began):.0f} s)")
                _measure(world, platform, launching, sunday, args.seconds, args.compared)
    finally:
        platform.close()
        world.stop()


def _measure(
    world: World,
    platform: TestPlatform,
    launching: list[tuple[str, str]],
    sunday: Sunday,
    seconds: int,
    compared: int,
) -> None:
    for who in ("a teacher", "the administrator"):
        _lists(world, who)
    with _used(world, "Monday"):
        times = _at_rate(
            LAUNCHES_A_SECOND,
            seconds,
            lambda: _launch(platform, random.choice(launching)),  # noqa: S311
        )
        _say("launches", times)
    with _used(world, "Sunday"):
        times = _at_rate(SCORES_A_SECOND, seconds, sunday.report)
        _say("scores in", times)
        began = time.monotonic()
        while (now := standing(world))["waiting"] and _since(began) < 300:
            time.sleep(1)
        lags = now["lags"]
        print(
            f"  scores to gradebooks: median {_at(lags, 0.5) / 1000:.1f} s, 95 %"
            f" {_at(lags, 0.95) / 1000:.1f} s; {now['waiting']} wait {_since(began):.0f} s after"
        )
    with _used(world, "Night"):
        done, began = standing(world)["compared"], time.monotonic()
        compare_every(world, compared)
        while (now := standing(world))["compared"] - done < compared and _since(began) < 600:
            time.sleep(1)
        rate = (now["compared"] - done) / _since(began)
        print(f"  comparisons: {rate:.2f} a second by one worker, {now['failed']} failed")
    sizes = ", ".join(f"{name} {size / 1e6:,.0f} MB" for name, size in now["sizes"].items())
    print(f"  sizes: {sizes}")


def _lists(world: World, who: str) -> None:
    """Ask for every list, one after another, and say the slowest of them."""
    with world.administrator() as administrator:
        admin = administrator._http.headers["Authorization"]
        rows = list(administrator.shells())
    token = admin if who == "the administrator" else f"Bearer {teacher_token(world, 'teacher0')}"
    pairing = next(str(row["pairing"]) for row in rows if row["label"] == "BENCH-00000")
    found = {}
    with httpx.Client(base_url=f"{world.url('vennpair')}/api/v1", timeout=120) as client:
        for path in LISTS:
            times = []
            for _ in range(ASKED):
                began = time.perf_counter()
                answer = client.get(path.format(pairing), headers={"Authorization": token})
                if answer.status_code == 200:
                    times.append(time.perf_counter() - began)
            found[path.format("…")] = sorted(times) or [0.0]
    told = "; ".join(f"{path} {_at(times, 0.95) * 1000:.0f}" for path, times in found.items())
    print(f"  lists of {who}, 95 % in ms: {told}")


def _launch(platform: TestPlatform, where: tuple[str, str]) -> None:
    """Launch a learner from a shell into an item, up to the publisher's door."""
    context, placement = where
    number = random.randrange(LEARNERS)  # noqa: S311
    with httpx.Client(timeout=60) as browser:
        answer = platform.launch(
            browser,
            **{
                "sub": f"u{number}",
                v.CONTEXT: {"id": context, "title": "Rivers", "label": context},
                v.ROLES: [v.LEARNER],
                CUSTOM: {"placement": placement},
                LINK: {"id": f"link-{placement}"},
            },
        )
    if answer.status_code != 302 or "/login" not in answer.headers["location"]:
        raise AssertionError(f"{answer.status_code}: {answer.text[:200]}")


class Sunday:
    """Reports of scores as the publisher sends them, each of its own cell, a tenth of them for a
    platform that is slow.
    """

    def __init__(self, world: World, fast: str, slow: str) -> None:
        self._service = world.url("vennpair")
        self._left: list[Iterator[tuple[str, bytes]]] = []
        self._tokens: list[str] = []
        for url, name, count in ((fast, "fast", 18), (slow, "slow", 2)):
            shape = {"pairings": count, "items": 5, "learners": 100}
            made = fill(world, url, name, on=True, reports=False, **shape)
            self._left.append(iter(reports(made, 1_000_000 // (20 // count))))
            self._tokens.append(made["token"])
        self._pool, self._lock = urllib3.PoolManager(maxsize=64, timeout=60), Lock()

    def report(self) -> None:
        """Report one."""
        with self._lock:
            which = int(random.random() < 0.1)  # noqa: S311
            path, body = next(self._left[which])
        headers = {"Authorization": f"Bearer {self._tokens[which]}", "Content-Type": MEDIA}
        answer = self._pool.request("POST", f"{self._service}{path}", body=body, headers=headers)
        if answer.status >= 300:
            raise AssertionError(f"{answer.status}: {answer.data[:200]!r}")


def _at_rate(rate: float, seconds: int, act: Callable[[], None]) -> list[float]:
    """Act so often a second, whether or not the ones before have ended; return how long each took,
    from the moment that it was due.
    """
    began = time.perf_counter()

    def one(due: float) -> float:
        act()
        return time.perf_counter() - due

    with ThreadPoolExecutor(64) as threads:
        waiting = []
        for number in range(int(rate * seconds)):
            due = began + number / rate
            time.sleep(max(0.0, due - time.perf_counter()))
            waiting.append(threads.submit(one, due))
        return sorted(each.result() for each in waiting)


@contextmanager
def _used(world: World, what: str) -> Iterator[None]:
    """Say what each kind of process took of the processors while inside, and its memory after."""
    before, began = _spent(world), time.monotonic()
    yield
    after, lasted = _spent(world), _since(began)
    told = ", ".join(
        f"{name} {(seconds - before.get(name, (0, 0))[0]) / lasted * 100:.0f} %, {memory:.0f} MB"
        for name, (seconds, memory) in after.items()
    )
    print(f"  {what}, {lasted:.0f} s: of one processor, and memory: {told}")


def _spent(world: World) -> dict[str, tuple[float, float]]:
    """Return processor seconds and resident megabytes of web, worker and database."""
    roots = {name: world.state["processes"][name]["pid"] for name in ("vennpair", "worker")}
    found = {name: _of_all([pid, *_below(pid)]) for name, pid in roots.items()}
    keeper = int((world.cluster._home() / "data" / "postmaster.pid").read_text().split()[0])
    return found | {"database": _of_all([keeper, *_below(keeper)])}


def _of_all(pids: list[int]) -> tuple[float, float]:
    seconds = memory = 0.0
    for pid in pids:
        try:
            fields = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
            parts = Path(f"/proc/{pid}/smaps_rollup").read_text()
        except OSError:  # ended meanwhile
            continue
        seconds += (int(fields[11]) + int(fields[12]) + int(fields[13]) + int(fields[14])) / TICKS
        memory += int(parts.split("Pss:", 1)[1].split()[0]) / 1024
    return seconds, memory


def _below(pid: int) -> list[int]:
    try:
        words = Path(f"/proc/{pid}/task/{pid}/children").read_text().split()
    except OSError:
        return []
    return [each for word in words for each in (int(word), *_below(int(word)))]


def _say(what: str, times: list[float]) -> None:
    told = ", ".join(f"{share:.0%} {_at(times, share) * 1000:.0f}" for share in (0.5, 0.95, 0.99))
    print(f"  {len(times)} {what}, ms: {told}, slowest {times[-1] * 1000:.0f}")


def _at(times: list[Any], share: float) -> float:
    return float(times[min(len(times) - 1, int(len(times) * share))]) if times else 0.0


def _since(began: float) -> float:
    return time.monotonic() - began


@contextmanager
def _other(module: str, *words: float) -> Iterator[str]:
    """Run an other side in a process of its own; yield its address."""
    port = free_port()
    command = [sys.executable, "-m", module, str(port), *map(str, words)]
    process = subprocess.Popen(command)
    try:
        time.sleep(1)
        yield f"http://127.0.0.1:{port}"
    finally:
        process.kill()
        process.wait()


if __name__ == "__main__":
    main()
