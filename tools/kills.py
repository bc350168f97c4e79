"""Prove that kills change nothing: rollouts, imports into a shell, settlements and whole set-ups
end in the same shells as undisturbed ones, whoever is killed when; and a set-up that is undone
leaves the shell as it was.

Usage: python -m tools.kills [--kills N] [--seed N] [--only NAME]
"""

from __future__ import annotations

import argparse
import random
import signal
import time
from collections.abc import Callable
from typing import Any

from tools.world import at_campus, at_press
from tools.world.actors import arrive
from tools.world.browser import Browser
from tools.world.world import INSTRUCTOR, PASSWORD, World
from vennpair.client import VennPair
from vennpair.client.schema import Job
from vennpair.standins.tarnfield import section

VICTIMS = ("worker", "vennpair", "campus")
KILLS, LONGEST_WAIT = 20, 1.5
LEARNERS, TITLES = section(2)[:6], ("Practice set 1A", "Practice set 1B", "Unit 1 quiz")
Begin = Callable[[World, VennPair, "Ground"], Job]


class Ground:
    """A fresh shell, paired with a fresh course whose content is known."""

    def __init__(self, world: World, venn: VennPair, label: str) -> None:
        shell, course = at_campus.add_shell(world, label), at_press.add_course(world, label)
        teacher = Browser()
        teacher.sign_in(world.url("campus"), INSTRUCTOR)
        teacher.open_link(world.url("campus"), shell["context_id"])
        self.label = label
        self.context, self.course = shell["context_id"], course["course"]
        known = next(each for each in venn.shells() if each["label"] == label)
        found = next(each for each in venn.courses(label, refresh=True) if each["code"] == label)
        self.pairing = str(venn.pair(known["id"], found["id"], agree=True)["id"])
        made = venn.start_import(self.pairing)
        venn.wait(made["job"])
        self.content, self.shell, self.set_up = made["id"], known["id"], ""
        self.before = _what_is_there(world, self)


def rollout(world: World, venn: VennPair, ground: Ground) -> Job:
    """Place every graded item with a date, in a folder a unit."""
    items = [each["id"] for each in venn.items(ground.pairing, kind="graded") if each["due_at"]]
    return venn.deploy(ground.pairing, items, into="unit")[0]["job"]


def delivery(world: World, venn: VennPair, ground: Ground) -> Job:
    """Bring all of the course's content into the shell."""
    return venn.deliver(ground.pairing, ground.content, everything=True, folder="Course")["job"]


def settlement(world: World, venn: VennPair, ground: Ground) -> Job:
    """Send scores that the publisher has and never reported."""
    items = [each["id"] for each in venn.items(ground.pairing) if each["title"] in TITLES]
    venn.wait(venn.deploy(ground.pairing, items)[0]["job"])
    for who, learner in enumerate(LEARNERS):
        for turn, title in enumerate(TITLES):
            score = str(3 + (who + turn) % 6)
            at_press.answer(world, ground.course, learner.email, title, score, lost=True)
    comparison = venn.compare(ground.pairing)
    venn.wait(comparison["job"])
    made = venn.settle(ground.pairing, comparison["id"], safe=True)["settlement"]
    assert made is not None
    assert made["job"] is not None
    return made["job"]


def set_up(world: World, venn: VennPair, ground: Ground) -> Job:
    """Place, bring readings, make a total, open as a learner, turn the relay on and place the first
    steps, as one.
    """
    ground.set_up = venn.begin_set_up([(ground.shell, None)], agree=True)["id"]
    venn.wait_for_set_up(ground.set_up)
    items = [each["id"] for each in venn.items(ground.pairing, kind="graded") if each["due_at"]]
    wishes = {"items": items, "access": "fee", "readings": True, "total": "Homework total"}
    begun = venn.start_set_up(ground.set_up, **wishes)["sections"][0]["job"]
    assert begun is not None
    return begun


def main() -> None:
    """Run."""
    parser = argparse.ArgumentParser(
        description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter
    )
    parser.add_argument("--kills", type=int, default=KILLS, help="of each kind of operation")
    parser.add_argument("--seed", type=int, default=int(time.time()))
    parser.add_argument(
        "--only", default="", help="one kind: rollout, delivery, settlement, set_up"
    )
    args = parser.parse_args()
    chance = random.Random(args.seed)  # noqa: S311 - repeatable, not secret
    world = World("kills", kept=False, VENNPAIR_CHECK_AS_LEARNER="false")
    world.start(fresh=True)
    try:
        arrive(world, "tarnfield-hyd210-02-s27")
        with VennPair(world.url("vennpair")) as stranger:
            token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
        with VennPair(world.url("vennpair"), token) as venn:
            kinds: tuple[Begin, ...] = (rollout, delivery, settlement, set_up)
            good = [
                _prove(world, venn, kind, args.kills, chance)
                for kind in kinds
                if args.only in {"", kind.__name__}
            ]
    finally:
        world.stop()
    raise SystemExit(0 if all(good) else f"kills: not the same, with the seed {args.seed}")


def _prove(world: World, venn: VennPair, begin: Begin, kills: int, chance: random.Random) -> bool:
    """Kill until there were ``kills``, in as many shells as that takes; say what came of it."""
    calm = Ground(world, venn, f"HYD 210-{begin.__name__.upper()}")
    venn.wait(begin(world, venn, calm), seconds=300)
    if calm.set_up:
        venn.wait_for_set_up(calm.set_up, seconds=300)
    expected, fell, runs, differ = _what_is_there(world, calm), 0, 0, 0
    while fell < kills:
        runs += 1
        ground = Ground(world, venn, f"HYD 210-{begin.__name__.upper()}-{runs}")
        job = begin(world, venn, ground)
        while fell < kills and not _over(venn, ground, job):
            time.sleep(chance.uniform(0, LONGEST_WAIT))
            if _over(venn, ground, job):
                break
            for victim in chance.sample(VICTIMS, chance.choice((1, 1, 2))):
                world.end(victim, signal.SIGKILL)
                fell += 1
            for site in ("campus", "vennpair"):
                world.start_site(site)
            world.start_worker()
        if ground.set_up:
            venn.wait_for_set_up(ground.set_up, seconds=300)
            differ += _differs("done", _what_is_there(world, ground), expected)
            section = venn.set_up(ground.set_up)["sections"][0]
            if section["stage"] != "live":
                print(f"kills: {section['stage']}: {section['message']}", flush=True)
            venn.undo_set_up(ground.set_up)
            venn.wait_for_set_up(ground.set_up, seconds=300)
            differ += _differs("undone", _what_is_there(world, ground), ground.before)
            continue
        venn.wait(job, seconds=300)
        differ += _differs("done", _what_is_there(world, ground), expected)
    print(f"kills: {begin.__name__}: {fell} kills in {runs} shells, {differ} differ", flush=True)
    return differ == 0


def _differs(when: str, found: dict[str, Any], expected: dict[str, Any]) -> bool:
    """Say whether a shell is not as it should be, and print what is not."""
    for name in expected:
        if found[name] != expected[name]:
            here, there = (list(each[name]) for each in (found, expected))
            more = [each for each in here if each not in there]
            less = [each for each in there if each not in here]
            print(f"kills: {when}, {name}: has {more[:5]}, lacks {less[:5]}", flush=True)
    return found != expected


def _over(venn: VennPair, ground: Ground, job: Job) -> bool:
    if ground.set_up:
        stage = venn.set_up(ground.set_up)["sections"][0]["stage"]
        return stage not in {"running", "waiting"}
    return venn.job(job["id"])["state"] in {"done", "failed", "cancelled"}


def _what_is_there(world: World, ground: Ground) -> dict[str, Any]:
    """Return what is in the campus's shell, read there."""
    rows = at_campus.outline(world, ground.context)
    columns = at_campus.columns(world, ground.context)
    return {
        "outline": [
            (
                row["depth"],
                row["title"].replace(ground.label, "this shell"),
                row["kind"],
                row["visible"],
            )
            for row in rows
        ],
        "columns": columns,
        "scores": at_campus.scores(world, ground.context),
    }


if __name__ == "__main__":
    main()
