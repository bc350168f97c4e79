"""Two files of a large class: cells compared per second, from bytes to the JSON document.

Usage: python -m bench.tables [--learners 500] [--items 40] [--rounds 5]
"""

from __future__ import annotations

import argparse
import json
import statistics
import time

from vennpair.core.reconcile.files import read_table
from vennpair.core.reconcile.table_report import table_report
from vennpair.core.reconcile.tables import compare_tables

HEADER = "learner_id,learner_email,learner_name,item,score,points,at\n"


def main() -> None:
    """Run."""
    parser = argparse.ArgumentParser()
    for name, default in (("learners", 500), ("items", 40), ("rounds", 5)):
        parser.add_argument(f"--{name}", type=int, default=default)
    args = parser.parse_args()
    rows = [
        f"T{learner},t{learner}@tarnfield.example,Learner {learner},Item"
        f" {item},{(learner * item) % 11},10,\n"
        for learner in range(args.learners)
        for item in range(args.items)
    ]
    publisher = (HEADER + "".join(rows)).encode()
    gradebook = (HEADER + "".join(row.replace(",3,10,", ",4,10,") for row in rows)).encode()
    seconds = []
    for _ in range(args.rounds):
        began = time.perf_counter()
        json.dumps(
            table_report(
                compare_tables(read_table(publisher, "p.csv"), read_table(gradebook, "g.csv"))
            )
        )
        seconds.append(time.perf_counter() - began)
    cells, median = args.learners * args.items, statistics.median(seconds)
    print(f"{cells} cells: {median:.2f} s from bytes to JSON, {cells / median:,.0f} cells/s")


if __name__ == "__main__":
    main()
