"""A million cells a side compared: core section by section, beside a full join and compare in two
data-frame libraries, all from the same rows.

Usage: python -m bench.compare [--learners 500] [--items 40] [--sections 50] [--rounds 3]   (needs
  polars and pandas: pip install '.[bench]')
Each variant runs in a process of its own, as peak memory is a process's; time begins with rows in
memory.
"""

from __future__ import annotations

import argparse
import gc
import json
import random
import resource
import statistics
import subprocess
import sys
import time
from collections import Counter
from collections.abc import Callable
from typing import Any

VARIANTS = ("core", "polars", "pandas")
Rows = list[tuple[str, str, str, str, str]]  # section, learner, item, score, points


def main() -> None:
    """Run, variants by turns."""
    parser = argparse.ArgumentParser()
    for name, default in (("learners", 500), ("items", 40), ("sections", 50), ("rounds", 3)):
        parser.add_argument(f"--{name}", type=int, default=default)
    parser.add_argument("--variant", choices=VARIANTS)
    args = parser.parse_args()
    if args.variant:
        print(json.dumps(_measured(args.variant, args.learners, args.items, args.sections)))
        return
    found: dict[str, list[dict[str, Any]]] = {name: [] for name in VARIANTS}
    shape = [f"--{name}={getattr(args, name)}" for name in ("learners", "items", "sections")]
    for turn in range(args.rounds):
        for name in VARIANTS if turn % 2 == 0 else reversed(VARIANTS):
            done = subprocess.run(
                [sys.executable, "-m", "bench.compare", f"--variant={name}", *shape],
                capture_output=True,
                text=True,
                check=True,
            )
            found[name].append(json.loads(done.stdout))
    if (
        len(
            {json.dumps(each["counts"], sort_keys=True) for rows in found.values() for each in rows}
        )
        != 1
    ):
        raise SystemExit(
            "the variants do not agree:"
            f" { {name: rows[0]['counts'] for name, rows in found.items()} }"
        )
    medians = {
        name: statistics.median(each["seconds"] for each in rows) for name, rows in found.items()
    }
    cells = args.learners * args.items * args.sections
    print(
        f"{cells:,} cells a side in {args.sections} sections, counts {found['core'][0]['counts']}"
    )
    for name, rows in found.items():
        print(
            f"  {name:<7} {medians[name]:6.2f} s  {cells / medians[name]:>9,.0f} cells/s "
            f" {medians[name] / medians['polars']:5.2f} x polars "
            f" +{max(each['grown_mb'] for each in rows):.0f} MB over its rows"
        )
    print(
        f"  core is {medians['pandas'] / medians['core']:.1f} times as fast as pandas (goal: 2),"
        f" {medians['core'] / medians['polars']:.1f} times as slow as polars (goal: at most 4)"
    )


def _measured(variant: str, learners: int, items: int, sections: int) -> dict[str, Any]:
    left, right = _rows(learners, items, sections)
    work: Callable[[Rows, Rows], Callable[[], dict[str, int]]] = {
        "core": _core,
        "polars": _polars,
        "pandas": _pandas,
    }[variant]
    run = work(left, right)
    gc.collect()
    # the rows are the bench's, not what is measured: no variant is to search them for garbage
    gc.freeze()
    before = _peak_mb()
    began = time.perf_counter()
    counts = run()
    return {
        "seconds": time.perf_counter() - began,
        "counts": counts,
        "grown_mb": _peak_mb() - before,
    }


def _rows(learners: int, items: int, sections: int) -> tuple[Rows, Rows]:
    """Return both sides: most agree, one in a hundred differs, a few are on one side only.

    Some are written otherwise and are the same.
    """
    chance = random.Random(7)  # noqa: S311 - the same rows each time, no secret
    left: Rows = []
    right: Rows = []
    for section in range(sections):
        for learner in range(learners):
            for item in range(items):
                key = (f"S{section}", f"L{section}-{learner}", f"Item {item}")
                score, luck = f"{chance.randrange(41) / 4:g}", chance.random()
                if luck > 0.005:
                    left.append((*key, score, "10"))
                if not 0.005 < luck <= 0.01:
                    other = (
                        f"{(float(score) + 0.5):g}"
                        if luck > 0.99
                        else (f"{float(score):.2f}" if luck > 0.97 else score)
                    )
                    right.append((*key, other, "10"))
    return left, right


def _core(left: Rows, right: Rows) -> Callable[[], dict[str, int]]:
    from vennpair.core.reconcile.files.builder import TableBuilder, Tidy
    from vennpair.core.reconcile.tables import Table, compare_tables

    # Sections come one after another, as they do where each is a pairing of its own; rows as a
    # reader of files gives them.
    def sections(rows: Rows) -> dict[str, list[tuple[int, Tidy]]]:
        found: dict[str, list[tuple[int, Tidy]]] = {}
        for section, learner, item, score, points in rows:
            found.setdefault(section, []).append((0, (learner, "", "", item, score, points, "")))
        return found

    ours, theirs = sections(left), sections(right)

    def table(rows: list[tuple[int, Tidy]]) -> Table:
        builder = TableBuilder("rows", careful=False)
        builder.rows(rows)
        return builder.finish()

    def run() -> dict[str, int]:
        counts: Counter[str] = Counter()
        for section, rows in ours.items():
            counts.update(compare_tables(table(rows), table(theirs.get(section, []))).counts)
        return dict(sorted(counts.items()))

    return run


def _polars(left: Rows, right: Rows) -> Callable[[], dict[str, int]]:
    import polars as pl

    names = ["section", "learner", "item", "score", "points"]
    one, other = (pl.DataFrame(rows, schema=names, orient="row") for rows in (left, right))

    def run() -> dict[str, int]:
        joined = one.join(other, on=names[:3], how="full", coalesce=True, suffix="_g")
        p, g = (
            pl.col("score").cast(pl.Float64) / pl.col("points").cast(pl.Float64),
            pl.col("score_g").cast(pl.Float64) / pl.col("points_g").cast(pl.Float64),
        )
        kind = (
            pl.when(g.is_null())
            .then(pl.lit("unsent"))
            .when(p.is_null())
            .then(pl.lit("gradebook_only"))
            .when((p - g).abs() < 1e-9)
            .then(pl.lit("agree"))
            .otherwise(pl.lit("differ"))
        )
        counted = joined.select(kind.alias("kind")).group_by("kind").len()
        return dict(sorted(zip(counted["kind"], counted["len"], strict=True)))

    return run


def _pandas(left: Rows, right: Rows) -> Callable[[], dict[str, int]]:
    import pandas as pd

    names = ["section", "learner", "item", "score", "points"]
    one, other = (pd.DataFrame(rows, columns=names) for rows in (left, right))

    def run() -> dict[str, int]:
        joined = one.merge(other, on=names[:3], how="outer", suffixes=("", "_g"))
        p, g = (
            pd.to_numeric(joined[f"score{mark}"]) / pd.to_numeric(joined[f"points{mark}"])
            for mark in ("", "_g")
        )
        kinds = pd.Series("differ", index=joined.index)
        kinds[(p - g).abs() < 1e-9] = "agree"
        kinds[g.isna()] = "unsent"
        kinds[p.isna()] = "gradebook_only"
        return {str(kind): int(count) for kind, count in sorted(kinds.value_counts().items())}

    return run


def _peak_mb() -> float:
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


if __name__ == "__main__":
    main()
