"""What the code of before does while the code of now is brought in. Runs with the modules of before
(``tools/side_by_side.py`` sees to that); the one argument is the folder of the code of now.
"""

from __future__ import annotations

import os
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from tools.world import at_campus, at_press
from tools.world.actors import arrive, hand_in
from tools.world.browser import Browser
from tools.world.differences import until_scores
from tools.world.ports import free_port
from tools.world.world import INSTRUCTOR, PASSWORD, World
from vennpair.client import Unreachable, VennPair
from vennpair.standins.tarnfield import section

ITEM = "Practice set 1A"
LEARNERS = section(2)[:6]
SECONDS = 60


def main(now: Path) -> None:
    """Lay a world by the code of before, migrate it by that of now, work with either."""
    world = World(
        "side-by-side",
        VENNPAIR_CHECK_AS_LEARNER="false",
        VENNPAIR_PERIODIC="false",
    )
    world.start(fresh=True)
    try:
        arrive(world, "tarnfield-hyd210-02-s27")
        service = world.url("vennpair")
        _work(world, service, "HYD 210-BEFORE")
        print("before: launched, placed, delivered, compared by its own schema")
        _run(world, now, "migrate")
        _work(world, service, "HYD 210-MIGRATED")
        print("before: the same on the schema of now")
        with _beside(world, now) as fresh:
            _work(world, fresh, "HYD 210-NOW")
            print("now: the same, with the code of before beside it")
            world.end("worker")
            _work(world, service, "HYD 210-MIXED")
            print("before: the same, carried out by a worker of now")
    finally:
        world.stop()


def _work(world: World, service: str, label: str) -> None:
    """Launch, pair, import, place, let a learner work, see the score arrive, compare."""
    shell = at_campus.add_shell(world, label)
    at_press.add_course(world, label)
    teacher = Browser()
    teacher.sign_in(world.url("campus"), INSTRUCTOR)
    teacher.open_link(world.url("campus"), shell["context_id"])
    with VennPair(service) as stranger:
        token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
    with VennPair(service, token) as venn:
        here = next(each for each in venn.shells() if each["label"] == label)
        there = next(each for each in venn.courses(label, refresh=True) if each["code"] == label)
        pairing = str(venn.pair(here["id"], there["id"], agree=True)["id"])
        venn.wait(venn.start_import(pairing)["job"])
        items = [item["id"] for item in venn.items(pairing) if item["title"] == ITEM]
        venn.wait(venn.deploy(pairing, items, folder="Homework")[0]["job"])
        venn.change_pairing(pairing, relay_on=True)
        for number, learner in enumerate(LEARNERS[:2]):
            hand_in(world, learner.email, shell["context_id"], ITEM, number + 1)
        until_scores(venn, pairing, accepted=2)
        comparison = venn.compare(pairing)
        venn.wait(comparison["job"])
        found = list(venn.findings(pairing, comparison["id"], scope="cell"))
        assert not found, found
        assert len(at_campus.scores(world, shell["context_id"])) == 2


def _run(world: World, now: Path, *words: str) -> None:
    subprocess.run(_command(*words), env=_environment(world, now), check=True)


def _command(*words: str) -> list[str]:
    return [sys.executable, "-m", "vennpair.service.server", *words]


def _environment(world: World, now: Path) -> dict[str, str]:
    """Return what the code of now runs with, on the database of the code of before."""
    path = os.pathsep.join((str(now / "src"), str(now)))
    return os.environ | world._environment("vennpair") | {"PYTHONPATH": path}


@contextmanager
def _beside(world: World, now: Path) -> Iterator[str]:
    """Run web and a worker of now; yield the address of its web."""
    port = free_port()
    environment = _environment(world, now)
    running = [
        subprocess.Popen(_command(*words), env=environment)
        for words in (("web", "--bind", f"127.0.0.1:{port}"), ("work",))
    ]
    try:
        base, ends = f"http://127.0.0.1:{port}", time.monotonic() + SECONDS
        while not _answers(base):
            assert time.monotonic() < ends, f"the code of now did not answer in {SECONDS} s"
        yield base
    finally:
        for each in running:
            each.terminate()
            each.wait()


def _answers(base: str) -> bool:
    with VennPair(base) as stranger:
        try:
            stranger.sign_in(INSTRUCTOR, PASSWORD)
        except Unreachable:
            return False
    return True


if __name__ == "__main__":
    main(Path(sys.argv[1]))
