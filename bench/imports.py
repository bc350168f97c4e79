"""Importing many entries into the stand-in campus: writes per entry, and how the time compares with
bare writes, 16 at once.

Usage: python -m bench.imports [--entries 2000] [--share 0.1]   (a world of its own is laid and
  taken away)
"""

from __future__ import annotations

import argparse
import json
import re
import tempfile
import time
import uuid
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import urllib3
from tools.world.actors import CommandLine, arrive, sign_in
from tools.world.world import INSTRUCTOR, PASSWORD, World

from vennpair.client import VennPair
from vennpair.standards.cartridge.writer import Entry, write_cartridge


def make(path: Path, entries: int) -> None:
    """Write pages and web links in folders of fifty."""
    rows = []
    for number in range(entries):
        if number % 50 == 0:
            rows.append(Entry(f"f{number}", f"Part {number // 50 + 1}", "folder"))
        else:
            page = number % 2 == 0
            rows.append(
                Entry(
                    f"e{number}",
                    f"Entry {number}",
                    "page" if page else "web_link",
                    1,
                    html=f"<p>{'text ' * 200}</p>" if page else "",
                    url="" if page else f"https://media.example/{number}",
                )
            )
    with path.open("wb") as target:
        write_cartridge(target, "bench", "Bench", "en", rows)


def bare(world: World, context: str, count: int) -> float:
    """Return the seconds of one bare write alone, ``count`` of them sent 16 at once."""
    token = uuid.uuid4().hex
    world.run_apart(
        "campus",
        "shell",
        "-v",
        "0",
        "-c",
        "from vennpair.standins.campus.models import *; from django.utils import timezone; from"
        f" datetime import timedelta; Token.objects.create(value='{token}',"
        " tool=Tool.objects.first(), scopes=['urn:vennpair:scope:outline'],"
        " expires=timezone.now()+timedelta(hours=1))",
    )

    pool = urllib3.PoolManager(maxsize=16)
    url = f"{world.url('campus')}/services/{context}/outline/entries"

    def send(number: int) -> None:
        body = json.dumps(
            {"kind": "page", "title": f"Bare {number}", "html": f"<p>{'text ' * 200}</p>"}
        )
        answer = pool.request(
            "POST",
            url,
            body=body,
            headers={
                "Authorization": f"Bearer {token}",
                "Content-Type": "application/json",
                "Idempotency-Key": f"bare-{number}",
            },
        )
        if answer.status != 201:
            raise SystemExit(f"the campus answered {answer.status}: {answer.data[:200]!r}")

    began = time.perf_counter()
    with ThreadPoolExecutor(16) as threads:
        list(threads.map(send, range(count)))
    return (time.perf_counter() - began) / count


def main() -> None:
    """Run."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--entries", type=int, default=2000)
    args = parser.parse_args()
    world = World("bench")
    world.start(fresh=True)
    try:
        cli = CommandLine(world)
        arrive(world, "tarnfield-hyd210-02-s27")
        sign_in(world, cli)
        with VennPair(world.url("vennpair")) as stranger:
            token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
        with (
            VennPair(world.url("vennpair"), token) as venn,
            tempfile.TemporaryDirectory() as folder,
        ):
            pairing = cli.json("pair", "HYD 210-02", "HYD 210-02", "--agree")["id"]
            path = Path(folder) / "bench.imscc"
            make(path, args.entries)
            made = venn.start_import(pairing, venn.send_package(pairing, path)["id"])
            venn.wait(made["job"])
            before = _written(world)
            began = time.perf_counter()
            done = venn.wait(
                venn.deliver(pairing, made["id"], everything=True)["job"], seconds=1800
            )
            seconds = time.perf_counter() - began
            writes = _written(world) - before
            each = bare(world, "tarnfield-hyd210-02-s27", 400)
            print(
                f"{done['message']} in {seconds:.1f} s; {writes} entries were written once each;"
                f" {seconds / args.entries / each:.2f} times a bare write, 16 at once"
                f" ({each * 1000:.1f} ms)"
            )
    finally:
        world.stop()


def _written(world: World) -> int:
    """Return how many writes the campus answered: it keeps each one's idempotency key."""
    return int(
        re.findall(
            r"\d+",
            world.run_apart(
                "campus",
                "shell",
                "-v",
                "0",
                "-c",
                "from vennpair.standins.campus.models import *; print(Repeatable.objects.count())",
            ),
        )[-1]
    )


if __name__ == "__main__":
    main()
