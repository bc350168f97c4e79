"""make stop: end what make demo, make example and make test started, and nothing else."""

from __future__ import annotations

from tools.house.cluster import RUN, stop_cluster
from tools.house.world import World


def main() -> None:
    """Run."""
    for folder in sorted(RUN.glob("*/state.json")):
        World(folder.parent.name).stop()
    if RUN.exists():
        stop_cluster()
    print("stop: everything that was started here is down; the data stays in .run/")


if __name__ == "__main__":
    main()
