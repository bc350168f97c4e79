"""Plant every kind of difference in a fresh shell of the running demo, find each again, and settle
them all.

Usage: python -m tools.plant_differences [--label 'HYD 210-D1'] [--settle]
"""

from __future__ import annotations

import argparse
from typing import Any

from tools.demo import demo_world
from tools.world import at_campus, at_press
from tools.world.browser import Browser
from tools.world.differences import (
    CELLS,
    COLUMNS,
    PEOPLE,
    Ground,
    address,
    choose_everything,
    plant_differences,
)
from tools.world.world import INSTRUCTOR, PASSWORD, World
from vennpair.client import VennPair


def main() -> None:
    """Run."""
    parser = argparse.ArgumentParser(
        description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter
    )
    parser.add_argument("--label", default="", help="of the shell to make; a free one without it")
    parser.add_argument("--settle", action="store_true", help="settle everything and compare again")
    args = parser.parse_args()
    world = demo_world()
    with VennPair(world.url("vennpair")) as stranger:
        token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
    with VennPair(world.url("vennpair"), token) as venn:
        ground = _ground(world, venn, args.label)
        print(f"{ground.label}: planting, with real launches and a real gradebook")
        plant_differences(world, venn, ground)
        comparison = _compared(venn, ground)
        good = _report(venn, ground, comparison)
        if args.settle:
            good = _settle(venn, ground, comparison) and good
    print(f"See it at {world.url('vennpair')}/pairings/{ground.pairing}/reconcile")
    raise SystemExit(0 if good else 1)


def _ground(world: World, venn: VennPair, label: str) -> Ground:
    taken = {each["label"] for each in venn.shells()}
    label = label or next(
        name for number in range(1, 1000) if (name := f"HYD 210-D{number}") not in taken
    )
    shell = at_campus.add_shell(world, label)
    course = at_press.add_course(world, label)
    teacher = Browser()
    teacher.sign_in(world.url("campus"), INSTRUCTOR)
    teacher.open_link(world.url("campus"), shell["context_id"])
    ours = next(each for each in venn.shells() if each["label"] == label)
    theirs = next(each for each in venn.courses(label, refresh=True) if each["code"] == label)
    pairing = venn.pair(ours["id"], theirs["id"], agree=True)["id"]
    venn.wait(venn.start_import(pairing)["job"])
    return Ground(label, shell["context_id"], course["course"], pairing)


def _compared(venn: VennPair, ground: Ground) -> dict[str, Any]:
    made = venn.compare(ground.pairing)
    venn.wait(made["job"])
    return dict(venn.comparison(ground.pairing, made["id"]))


def _report(venn: VennPair, ground: Ground, comparison: dict[str, Any]) -> bool:
    """Print what was planted beside what was found; return whether they are the same."""
    findings = list(venn.findings(ground.pairing, comparison["id"]))
    found = {
        (
            each["kind"],
            each["learner"] if each["scope"] == "learner" else each["item"],
            each["email"] if each["scope"] == "cell" else "",
        ): each
        for each in findings
    }
    planted = {(kind, title, address(who)) for (who, title), kind in CELLS.items()} | {
        (kind, title, "") for kind, title in COLUMNS | PEOPLE
    }
    for key in sorted(planted):
        each = found.get(key)
        print(
            f"  {'found ' if each else 'MISSED'} {key[0]:<17} {each['cause'] if each else key[1]}"
        )
    for key in sorted(found.keys() - planted):
        print(f"  EXTRA  {key[0]:<17} {found[key]['cause']}")
    return planted == found.keys()


def _settle(venn: VennPair, ground: Ground, comparison: dict[str, Any]) -> bool:
    chosen = choose_everything(venn.findings(ground.pairing, comparison["id"]))
    begun = venn.settle(ground.pairing, comparison["id"], findings=chosen)["settlement"]
    if begun is None or begun["job"] is None:
        raise SystemExit("nothing was begun")
    venn.wait(begun["job"])
    done = venn.settlement(ground.pairing, begun["id"])
    print(f"settled: {done['counts']}")
    for rollout in venn.rollouts(ground.pairing):
        venn.wait(rollout["job"])
    after = _compared(venn, ground)
    print(
        f"compared again: open {after['summary']['open']}, {after['summary']['kept']} kept on"
        f" purpose, {after['summary']['urgent']} urgent"
    )
    return set(done["counts"]) == {"done"} and after["summary"]["urgent"] == 0


if __name__ == "__main__":
    main()
