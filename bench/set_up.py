"""Three sections of 32 graded items each: from agreeing to live, and back.

    python -m bench.set_up [--sections N] [--times N]

Goal: under 20 s from agreeing to live, each link opened as a learner. A world of its own is laid
and taken away; the demo's stand-ins, the service and one worker share the machine's cores.
"""

from __future__ import annotations

import argparse
import time

from tools.world import at_campus, at_press
from tools.world.actors import arrive
from tools.world.browser import Browser
from tools.world.world import INSTRUCTOR, PASSWORD, World

from vennpair.client import VennPair
from vennpair.client.schema import SetUp

ITEMS, LONGEST = 32, 600


def main() -> None:
    """Run."""
    parser = argparse.ArgumentParser(
        description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter
    )
    parser.add_argument("--sections", type=int, default=3)
    parser.add_argument("--times", type=int, default=2)
    args = parser.parse_args()
    world = World("bench-set-up", kept=False)
    world.start(fresh=True)
    try:
        arrive(world, "tarnfield-hyd210-02-s27")
        with VennPair(world.url("vennpair")) as stranger:
            token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
        with VennPair(world.url("vennpair"), token) as venn:
            for number in range(args.times):
                labels = [f"HYD 210-B{number}{each}" for each in range(args.sections)]
                _open(world, labels)
                _run(venn, labels)
    finally:
        world.stop()


def _open(world: World, labels: list[str]) -> None:
    teacher = Browser()
    teacher.sign_in(world.url("campus"), INSTRUCTOR)
    for label in labels:
        shell = at_campus.add_shell(world, label)
        at_press.add_course(world, label)
        teacher.open_link(world.url("campus"), shell["context_id"])


def _run(venn: VennPair, labels: list[str]) -> None:
    list(venn.courses(labels[0], refresh=True))
    shells = {row["label"]: row["id"] for row in venn.shells()}
    began = time.monotonic()
    made = venn.begin_set_up([(shells[label], None) for label in labels], agree=True)
    found = venn.wait_for_set_up(made["id"], seconds=LONGEST)
    read = time.monotonic()
    items = venn.items(found["sections"][0]["pairing"], kind="graded")
    chosen = [each["id"] for each in items if each["due_at"]][:ITEMS]
    venn.plan_set_up(made["id"], items=chosen)
    planned = time.monotonic()
    venn.start_set_up(made["id"], items=chosen)
    opening: list[float] = []

    def look(now: SetUp) -> None:
        kinds = {each["job"]["kind"] for each in now["sections"] if each["job"]}
        if not opening and "learner_check" in kinds:
            opening.append(time.monotonic())

    done = venn.wait_for_set_up(made["id"], look, LONGEST)
    live = time.monotonic()
    opened = opening[0] if opening else live
    venn.undo_set_up(made["id"])
    venn.wait_for_set_up(made["id"], seconds=LONGEST)
    undone = time.monotonic()
    print(
        f"{len(labels)} sections x {len(chosen)} items: {live - began:.1f} s from agreeing to live"
        f" (read {read - began:.1f}, planned {planned - read:.1f}, the first placed"
        f" {opened - planned:.1f}, all opened {live - opened:.1f}), undone {undone - live:.1f} s",
        flush=True,
    )
    for each in done["sections"]:
        words = each["job"]["message"] if each["job"] else each["message"]
        print(f"  {each['name']}: {each['stage']}, {words}", flush=True)


if __name__ == "__main__":
    main()
