"""make stop: end what make demo, make example and make test started, and nothing else."""

from __future__ import annotations

import json

from tools.world.cluster import RUN, Cluster
from tools.world.world import World


def main() -> None:
    """Run."""
    for folder in sorted(RUN.glob("*/state.json")):
        kept = json.loads(folder.read_text()).get("kept", True)
        World(folder.parent.name, kept=kept).stop()
    if RUN.exists():
        Cluster().stop()
    print("stop: everything that was started here is down; the data stays in .run/")


if __name__ == "__main__":
    main()
