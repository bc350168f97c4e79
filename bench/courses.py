"""Searching 5,000 homework courses, as a ratio to a bare view of the same server in the same run.

    python -m bench.courses

Each round asks the bare view and the search in turn, so that a slow phase of the machine meets
both.
"""

from __future__ import annotations

import statistics
import time

import httpx
from tools.world.actors import CommandLine, arrive, sign_in
from tools.world.world import INSTRUCTOR, PASSWORD, World

from vennpair.client import VennPair

COURSES, ROUNDS = 5_000, 60
_FILL = """
from django.utils import timezone
from vennpair.core.pair.guess import fold
from vennpair.service.connect.models import Publisher
from vennpair.service.pair.models import HomeworkCourse
publisher = Publisher.objects.first()
rows = []
for number in range({count}):
    title, code = f"Invented Subject {{number % 40}}, {{number % 5 + 1}}th ed.", f"SUB {{100 + number % 400}}-{{number % 12:02d}}"
    words = fold(f"{{title}} {{code}} Spring 2027 section {{number % 12}} Author {{number % 300}} 978-0-00-{{number:06d}}-0")
    rows.append(HomeworkCourse(publisher=publisher, sourced_id=f"bench-{{number}}", title=title, code=code, term="Spring 2027", section=str(number % 12), author=f"Author {{number % 300}}", search=words, folded_title=fold(title), seen_at=timezone.now()))
HomeworkCourse.objects.bulk_create(rows, batch_size=1000, ignore_conflicts=True)
"""
_COUNT = """
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.conf import settings
settings.ALLOWED_HOSTS.append("testserver")
from django.test import Client
from vennpair.service.connect.models import User
client = Client(); client.force_login(User.objects.get(username="{user}"), backend="django.contrib.auth.backends.ModelBackend")
for words in ("rivers", "subject", ""):
    with CaptureQueriesContext(connection, ) as seen:
        answer = client.get("/api/v1/courses", {{"q": words, "shell": "{shell}", "limit": 30}})
    print(words or "(all)", len(answer.json()["results"]), "rows", len(seen), "queries")
"""


def main() -> None:
    """Print the ratio and the number of queries."""
    world = World("bench")
    world.start(fresh=True)
    try:
        arrive(world, "tarnfield-hyd210-02-s27")
        sign_in(world, CommandLine(world))
        with VennPair(world.url("vennpair")) as stranger:
            token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
        with VennPair(world.url("vennpair"), token) as venn:
            shell = next(venn.shells())["id"]
            venn.courses("", refresh=True)
        world.run_apart("vennpair", "shell", "-v", "0", "-c", _FILL.format(count=COURSES))
        _time(world.url("vennpair"), token, shell)
        print(
            world.run_apart(
                "vennpair", "shell", "-v", "0", "-c", _COUNT.format(user=INSTRUCTOR, shell=shell)
            ).strip()
        )
    finally:
        world.stop()


def _time(url: str, token: str, shell: str) -> None:
    searches = {
        "one word of a title": "subject 17",
        "a code": "sub 217-05",
        "an author": "author 123",
        "everything, ranked for a shell": "",
    }
    with httpx.Client(
        base_url=f"{url}/api/v1", headers={"Authorization": f"Bearer {token}"}
    ) as client:
        taken: dict[str, list[float]] = {name: [] for name in ("bare view", *searches)}
        for _ in range(ROUNDS):
            taken["bare view"].append(_once(client, "/me", {}))
            for name, words in searches.items():
                taken[name].append(
                    _once(client, "/courses", {"q": words, "shell": shell, "limit": "30"})
                )
    bare = statistics.median(taken["bare view"])
    for name, times in taken.items():
        print(
            f"{name:32} {statistics.median(times) * 1000:6.1f} ms "
            f" {statistics.median(times) / bare:4.2f} x bare"
        )


def _once(client: httpx.Client, path: str, params: dict[str, str]) -> float:
    began = time.perf_counter()
    client.get(path, params=params).raise_for_status()
    return time.perf_counter() - began


if __name__ == "__main__":
    main()
