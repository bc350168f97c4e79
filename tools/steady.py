"""Prove that the tests do not race: the whole run again and again in other orders, and the tests
that depend most on time while both cores are busy.

Usage: python -m tools.steady [--whole N] [--timed N] [--seed N]
Each run says its seed; `pytest -n 2 --dist loadfile --randomly-seed=SEED` repeats it.
"""

from __future__ import annotations

import argparse
import multiprocessing
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager

from tools.check import PYTEST
from tools.world.cluster import ROOT

WHOLE, TIMED = 5, 20
BUSY_CORES = 2


def main() -> None:
    """Run."""
    parser = argparse.ArgumentParser(
        description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter
    )
    parser.add_argument("--whole", type=int, default=WHOLE, help="runs of everything")
    parser.add_argument("--timed", type=int, default=TIMED, help="runs of the timed tests, busy")
    parser.add_argument("--seed", type=int, default=int(time.time()), help="of the first run")
    args = parser.parse_args()
    whole = range(args.seed, args.seed + args.whole)
    timed = range(whole.stop, whole.stop + args.timed)
    failed = [seed for seed in whole if not _run(seed)]
    with _busy():
        failed += [seed for seed in timed if not _run(seed, "timed")]
    if failed:
        raise SystemExit(f"steady: failed with the seeds {', '.join(map(str, failed))}")
    print(f"steady: {args.whole} whole runs and {args.timed} timed ones, all green")


def _run(seed: int, mark: str = "") -> bool:
    began = time.monotonic()
    words = [*PYTEST, f"--randomly-seed={seed}"]
    done = subprocess.run(
        [*words, *(["-m", mark] if mark else [])], cwd=ROOT, capture_output=True, text=True
    )
    last = (done.stdout.strip().splitlines() or ["no output"])[-1].strip("= ")
    what = f"{mark or 'whole'} run, seed {seed}"
    print(f"steady: {what}: {last} ({time.monotonic() - began:.0f} s)", flush=True)
    if done.returncode:
        print(done.stdout[-8000:], done.stderr[-2000:], flush=True)
    return done.returncode == 0


@contextmanager
def _busy() -> Iterator[None]:
    """Keep every core busy while inside."""
    spinners = [multiprocessing.Process(target=_spin, daemon=True) for _ in range(BUSY_CORES)]
    for each in spinners:
        each.start()
    try:
        yield
    finally:
        for each in spinners:
            each.terminate()


def _spin() -> None:
    while True:
        sum(range(10_000))


if __name__ == "__main__":
    main()
