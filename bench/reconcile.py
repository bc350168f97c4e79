"""Comparing a class of 500 by 40: live with sides that answer in 50 and in 200 ms, from files by
the command line, and drawn in the console.

Usage: python -m bench.reconcile [live] [files] [matrix] [command]   (all without words; a world of
  its own is laid and taken away)
"""

from __future__ import annotations

import json
import os
import random
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import urllib3
from playwright.sync_api import Page
from tools.world.chromium import chromium, new_page
from tools.world.cluster import free_port
from tools.world.world import ADMINISTRATOR, PASSWORD, World

from bench.relay import fill

LEARNERS, ITEMS, ROUNDS = 500, 40, 3
WAITS = (
    0.05,
    0.2,
)  # seconds that a side takes for a page of 100 rows: a quick one, and a usual one
HEADER = "learner_id,learner_email,learner_name,item,score,points,at\n"
_POINT = """
from vennpair.service.connect.models import Institution, Publisher
from vennpair.service.connect.secrets import seal
from vennpair.service.content.models import Item
from vennpair.service.content.models import Placement
from vennpair.service.pair.models import Pairing
pairing = Pairing.objects.get(pk='{pairing}')
publisher = Publisher.objects.create(institution=Institution.objects.first(), name='Slow sides {number}', oneroster_url='{url}', oneroster_token_url='{url}/token', oneroster_client_id='c', oneroster_secret=seal('s'))
pairing.course.publisher = publisher
pairing.course.save()
shell = pairing.shell
shell.memberships_url = shell.lineitems_url.replace('lineitems', 'members')
shell.save()
for item in Item.objects.filter(pairing=pairing):
    item.line_item = item.key
    item.save()
    Placement.objects.filter(item=item).update(column_url=shell.lineitems_url + '/col' + item.key[1:])
"""
_COMPARE = """
import json, time
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.pair.models import Pairing
from vennpair.service.reconcile.actions.compare_pairing import compare_pairing
from vennpair.service.reconcile.models import Comparison
pairing = Pairing.objects.select_related('shell__platform__institution', 'course__publisher').get(pk='{pairing}')
told = []
for _ in range({rounds}):
    job = Job.objects.create(kind='comparison', pairing=pairing, state='running')
    comparison = Comparison.objects.create(pairing=pairing, job=job)
    wall, cpu = time.perf_counter(), time.process_time()
    words = compare_pairing(job)
    told.append([time.perf_counter() - wall, time.process_time() - cpu, words])
    Job.objects.filter(pk=job.pk).update(state='done')
print('MADE' + json.dumps(told))
"""
_PAINTED, _SCROLL = (
    (Path(__file__).parent / name).read_text() for name in ("painted.js", "scrolled.js")
)


def main() -> None:
    """Run the parts named."""
    wanted = sys.argv[1:] or ["live", "files", "matrix", "command"]
    if "files" in wanted:
        files()
    if {"live", "matrix", "command"} & set(wanted):
        world = World("bench")
        world.start(fresh=True)
        try:
            if {"live", "matrix"} & set(wanted):
                live(world, drawn="matrix" in wanted)
            if "command" in wanted:
                command(world)
        finally:
            world.stop()


def files() -> None:
    """Two tidy files, from the shell's prompt to the JSON, start-up included."""
    chance = random.Random(3)  # noqa: S311 - the same files each time, no secret
    with tempfile.TemporaryDirectory() as folder:
        left, right = Path(folder) / "p.csv", Path(folder) / "g.csv"
        rows = [
            (who, item, chance.randrange(101) / 4)
            for who in range(LEARNERS)
            for item in range(ITEMS)
        ]
        left.write_text(
            HEADER
            + "".join(
                f"L{who:04},l{who}@t.example,Learner {who},Item {item},{score:g},25,\n"
                for who, item, score in rows
            )
        )
        right.write_text(
            HEADER
            + "".join(
                f"L{who:04},l{who}@t.example,Learner {who},Item"
                f" {item},{(score if chance.random() > 0.02 else 1):g},25,\n"
                for who, item, score in rows
            )
        )
        command = [
            sys.executable,
            "-m",
            "vennpair.cli.main",
            "reconcile",
            "--publisher",
            str(left),
            "--gradebook",
            str(right),
            "--format",
            "json",
        ]
        seconds = []
        for _ in range(5):
            began = time.perf_counter()
            subprocess.run(command, check=True, capture_output=True)
            seconds.append(time.perf_counter() - began)
    print(
        f"files: {LEARNERS} x {ITEMS} from files to JSON, start-up included:"
        f" {sorted(seconds)[2]:.2f} s (goal: under 1 s)"
    )


def live(world: World, *, drawn: bool) -> None:
    """Compare live, and draw what came of it."""
    for number, seconds in enumerate(WAITS):
        port = free_port()
        url = f"http://127.0.0.1:{port}"
        sides = subprocess.Popen(
            [
                sys.executable,
                "-m",
                "bench.slow_sides",
                str(port),
                str(seconds),
                str(LEARNERS),
                str(ITEMS),
            ]
        )
        try:
            _until_up(f"{url}/token")
            made = fill(world, url, f"live{number}-", items=ITEMS, learners=LEARNERS)["pairings"][0]
            manage(world, _POINT.format(pairing=made["pairing"], url=url, number=number))
            told = json.loads(
                manage(world, _COMPARE.format(pairing=made["pairing"], rounds=ROUNDS)).rpartition(
                    "MADE"
                )[2]
            )
        finally:
            sides.kill()
        for wall, cpu, words in told:
            print(
                f"live at {seconds * 1000:.0f} ms a page: {words}: {wall:.2f} s, of which {cpu:.2f}"
                f" s CPU: {1 - cpu / wall:.0%} waiting (goal: over 80 %)"
            )
    if drawn:
        matrix(world, made["pairing"])


def command(world: World) -> None:
    """The whole command on a class of which every score differs, and one page of its findings."""
    learners, items, port = 100, 20, free_port()
    url = f"http://127.0.0.1:{port}"
    words = [sys.executable, "-m", "bench.slow_sides", *map(str, (port, 0.02, learners, items, 1))]
    sides = subprocess.Popen(words)
    try:
        _until_up(f"{url}/token")
        made = fill(world, url, "command-", items=items, learners=learners)["pairings"][0]
        manage(world, _POINT.format(pairing=made["pairing"], url=url, number="command"))
        venn = world.administrator()
        shell = venn.pairing(made["pairing"])["shell"]["id"]
        environment = os.environ | {"VENNPAIR_SESSION": str(world.home / "bench-session")}
        asked = [sys.executable, "-m", "vennpair.cli.main"]
        sign_in = ["sign-in", "--service", world.url("vennpair"), "--user", ADMINISTRATOR]
        subprocess.run(
            [*asked, *sign_in, "--password-stdin"],
            check=True,
            input=PASSWORD.encode(),
            env=environment,
            stdout=subprocess.DEVNULL,
        )
        seconds = []
        for _ in range(ROUNDS):
            began = time.perf_counter()
            ran = subprocess.run([*asked, "reconcile", shell], env=environment, capture_output=True)
            seconds.append(time.perf_counter() - began)
        comparison = next(venn.comparisons(made["pairing"]))["id"]
        address = f"/pairings/{made['pairing']}/comparisons/{comparison}/findings"
        pages = []
        for _ in range(ROUNDS):
            began = time.perf_counter()
            page = venn._http.request("GET", address, params={"limit": 1000})
            pages.append(time.perf_counter() - began)
    finally:
        sides.kill()
    print(
        f"command: {learners} x {items}, {ran.stdout.count(b'differ')} rows that differ, from prompt"
        f" to prompt {sorted(seconds)[1]:.2f} s (goal: 5 s); a page of"
        f" {len(page.json()['results'])} findings {sorted(pages)[1]:.3f} s (goal: 0.3 s)"
    )


def matrix(world: World, pairing: str) -> None:
    """Open the page of the class, and scroll through it."""
    with chromium() as browser:
        page = new_page(browser)
        page.goto(f"{world.url('vennpair')}/sign-in")
        page.locator("input").first.fill(ADMINISTRATOR)
        page.locator("input[type=password]").fill(PASSWORD)
        page.locator("button[type=submit]").click()
        page.get_by_role("heading", name="Your shells").wait_for()
        first, frames = _drawn(page, f"{world.url('vennpair')}/pairings/{pairing}/reconcile")
    print(
        f"matrix: {LEARNERS} x {ITEMS} painted {first:.0f} ms after its data was there (goal: under"
        f" 1 s); while scrolling a frame takes {frames[len(frames) // 2]:.0f} ms, 19 of 20 at most"
        f" {frames[int(len(frames) * 0.95)]:.0f} ms"
    )


def _drawn(page: Page, address: str) -> tuple[float, list[float]]:
    with page.expect_response(
        lambda answer: "/comparisons/" in answer.url and "/findings" not in answer.url
    ) as answered:
        page.goto(address)
    answered.value.finished()
    return float(page.evaluate(_PAINTED)), list(page.evaluate(_SCROLL))


def manage(world: World, code: str) -> str:
    """Run code in the service."""
    return world.run_apart("vennpair", "shell", "-v", "0", "-c", code)


def _until_up(url: str) -> None:
    for _ in range(100):
        try:
            urllib3.request("GET", url)
        except urllib3.exceptions.HTTPError:
            time.sleep(0.1)
        else:
            return
    raise SystemExit(f"{url} does not answer")


if __name__ == "__main__":
    main()
