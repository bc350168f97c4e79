"""A learner's launch through both hops: the service's own share of CPU.

    python -m bench.launch

Campus, press and service are processes of their own; only the service's time is counted, over
launches one after another by a real browser session each.
"""

from __future__ import annotations

import os
from pathlib import Path

from tools.world.actors import CommandLine, arrive, sign_in
from tools.world.browser import Browser
from tools.world.world import World

from vennpair.standins.tarnfield import section

LAUNCHES = 100
CONTEXT, LABEL, ITEM = "tarnfield-hyd210-02-s27", "HYD 210-02", "Practice set 1A"


def main() -> None:
    """Print milliseconds of CPU for each launch."""
    world = World("bench")
    world.start(fresh=True)
    try:
        arrive(world, CONTEXT)
        cli = CommandLine(world)
        sign_in(world, cli)
        cli.json("pair", LABEL, LABEL, "--agree")
        cli.json("cartridge", "import", LABEL)
        cli.json("deploy", LABEL, "--unit", "Unit 1")
        learners = [Browser() for _ in range(5)]
        for browser, human in zip(learners, section(2), strict=False):
            browser.sign_in(world.url("campus"), human.email)
            browser.open_link(world.url("campus"), CONTEXT, ITEM)
        before = _cpu_seconds(world)
        for number in range(LAUNCHES):
            page = learners[number % len(learners)].open_link(world.url("campus"), CONTEXT, ITEM)
            if page.status != 200:
                raise SystemExit(f"launch {number} did not open: {page.words[:200]}")
        spent = (_cpu_seconds(world) - before) / LAUNCHES * 1000
        print(
            f"{LAUNCHES} launches through both hops: {spent:.1f} ms of the service's CPU each"
            " (goal: under 60)"
        )
    finally:
        world.stop()


def _cpu_seconds(world: World) -> float:
    """Return user and system time of the service's processes so far."""
    root = world.state["processes"]["vennpair"]["pid"]
    return sum(_of(pid) for pid in (root, *_children(root)))


def _children(pid: int) -> list[int]:
    return [int(word) for word in Path(f"/proc/{pid}/task/{pid}/children").read_text().split()]


def _of(pid: int) -> float:
    fields = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
    return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")


if __name__ == "__main__":
    main()
