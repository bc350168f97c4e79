"""make demo: start campus, press, service and worker, with the demo's story.

Print where they are.
"""

from __future__ import annotations

import os
import time

from tools.world.story import plant
from tools.world.world import ADMINISTRATOR, INSTRUCTOR, PASSWORD, World

PORTS = (8100, 8110, 8120)


def demo_world() -> World:
    """Start the demo's world, laid again where it is not whole."""
    os.environ.setdefault("CAMPUS_IMPORT_SECONDS", "3")  # so that people see it at work
    world = World("demo", PORTS)
    began = time.monotonic()

    def say(words: str) -> None:
        print(f"demo: {time.monotonic() - began:5.1f} s  {words}", flush=True)

    whole = bool(world.state.get("planted"))
    say(
        "starting what is down"
        if whole
        else "laying three databases and connecting the three services"
    )
    if world.start(fresh=not whole):
        plant(world, say)
        world.manage("press", "write_cartridges", "rg3-hyd210-01", str(world.home / "cartridges"))
        world.state["planted"] = True
        world.start()
    return world


def main() -> None:
    """Run."""
    world = demo_world()
    print(f"""
Venn Pair            {world.url("vennpair")}
Tarnfield College    {world.url("campus")}     (the course platform, a stand-in)
Kestrelbrook Press   {world.url("press")}     (the publisher, a stand-in)

In the browser: open Tarnfield College, sign in as Maren Holt (she teaches), open HYD 210-01,
and press 'Open Venn Pair'. Any learner there can open a link and hand in work.
On the command line: vennpair sign-in --service {world.url("vennpair")} --user {INSTRUCTOR}
Passwords: {PASSWORD} (for {INSTRUCTOR} and {ADMINISTRATOR})
Three cartridges to import by hand lie in {world.home / "cartridges"}
Stop it with: make stop""")


if __name__ == "__main__":
    main()
