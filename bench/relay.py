"""Relaying: 10,000 scores to a platform that answers in 50 ms, the lag at 50 scores a second,
accepting scores, and a second worker.

Usage: python -m bench.relay [send] [lag] [accept] [workers]   (all without words; a world of its
  own is laid and taken away)
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from typing import Any

import urllib3
from tools.world.cluster import Cluster, free_port
from tools.world.world import World

SCORES, LEARNERS, SECONDS, IN_FLIGHT = 10_000, 500, 0.05, 32
RATE, RATE_SECONDS = 50, 30
ACCEPTED, PAIRINGS = 3_000, 6
MEDIA = "application/vnd.ims.lis.v1.score+json"
_FILL = """
import json, hashlib, secrets
from datetime import timedelta
from decimal import Decimal
from django.utils import timezone
from vennpair.service.connect.models import Institution, Platform, Publisher, User
from vennpair.service.content.models import Item
from vennpair.service.content.models import Placement
from vennpair.service.lti.models import ServiceToken
from vennpair.service.lti.publisher_launch import digest
from vennpair.service.pair.models import *
from vennpair.service.relay.models import Cell, LedgerEntry
platform = Platform.objects.create(institution=Institution.objects.first(), name='Slow {name}', issuer='{url}', client_id='c', deployment_ids=['d'], authorization_url='{url}/a', token_url='{url}/token', jwks_url='{url}/jwks')
publisher, user, made = Publisher.objects.first(), User.objects.get(is_staff=True), []
for number in range({pairings}):
    at = f'{url}/s/{name}{{number}}'
    shell = Shell.objects.create(platform=platform, context_id=f'{name}-{{number}}', title='Bench', label=f'BENCH-{name}-{{number}}', timezone='America/Chicago', lineitems_url=at + '/lineitems')
    course = HomeworkCourse.objects.create(publisher=publisher, sourced_id=f'{name}-{{number}}', title='Bench', code='BENCH')
    pairing = Pairing.objects.create(shell=shell, course=course, state='live', relay_on={on}, made_by=user)
    Consent.objects.create(shell=shell, user=user)
    learners = Learner.objects.bulk_create([Learner(shell=shell, subject=f'u{{each}}', name=f'Learner {{each}}') for each in range({learners})])
    placed = []
    for each in range({items}):
        item = Item.objects.create(pairing=pairing, key=f'i{{each}}', title=f'Item {{each}}', shown_title=f'Item {{each}}', kind='graded', position=each, points=10)
        placed.append(Placement.objects.create(pairing=pairing, item=item, state='placed', title=item.title, points=10, column_url=f'{{at}}/lineitems/col{{number}}x{{each}}'))
    if {fill}:
        now = timezone.now()
        LedgerEntry.objects.bulk_create([LedgerEntry(pairing=pairing, placement=p, learner=l, timestamp=now, given=Decimal(i % 11), maximum=10, activity='Completed', grading='FullyGraded', digest='x') for p in placed for i, l in enumerate(learners)], batch_size=2000)
        Cell.objects.bulk_create([Cell(pairing=pairing, placement=p, learner=l, state='held', why='off', since=now) for p in placed for l in learners], batch_size=2000)
    made.append(dict(pairing=str(pairing.pk), placements=[str(p.pk) for p in placed], learners=[l.sub for l in learners]))
token = secrets.token_urlsafe(32)
ServiceToken.objects.create(publisher=publisher, digest=digest(token), scopes=['https://purl.imsglobal.org/spec/lti-ags/scope/score'], expires=timezone.now() + timedelta(hours=1))
print('MADE' + json.dumps(dict(pairings=made, token=token)))
"""
_ON = """
from vennpair.service.connect.models import User
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.actions.change_pairing import turn_relay
user = User.objects.get(is_staff=True)
for pairing in Pairing.objects.filter(pk__in={pairings}).select_related('shell__platform__institution', 'course__publisher'):
    turn_relay(pairing, True, user)
"""
_LAG = """
from vennpair.service.relay.models import Passage
lags = sorted(Passage.objects.filter(pairing='{pairing}', what='accepted').values_list('lag_ms', flat=True))
print('MADE', len(lags), lags[len(lags) // 2], lags[int(len(lags) * 0.95)], lags[-1])
"""


def fill(
    world: World,
    url: str,
    name: str,
    *,
    pairings: int = 1,
    items: int = 1,
    learners: int = LEARNERS,
    on: bool = False,
    reports: bool = True,
) -> dict[str, Any]:
    """Lay pairings of a platform with their learners and columns, and their reports in the
    ledger.
    """
    told = world.run_apart(
        "vennpair",
        "shell",
        "-v",
        "0",
        "-c",
        _FILL.format(
            url=url,
            name=name,
            pairings=pairings,
            items=items,
            learners=learners,
            on=on,
            fill=reports,
        ),
    )
    return dict(json.loads(told.rpartition("MADE")[2]))


def turn_on(world: World, made: dict[str, Any]) -> None:
    """Turn the relay of all on; the sending begins."""
    world.run_apart(
        "vennpair",
        "shell",
        "-v",
        "0",
        "-c",
        _ON.format(pairings=[each["pairing"] for each in made["pairings"]]),
    )


def sent(url: str, count: int) -> float:
    """Wait until so many scores have come.

    Return how many a second came between the first and the last.
    """
    deadline = time.monotonic() + 300
    while time.monotonic() < deadline:
        told = json.loads(urllib3.request("GET", f"{url}/writes").data)
        if told["count"] >= count:
            return float((told["count"] - 1) / told["seconds"])
        time.sleep(0.5)
    raise SystemExit(f"only {told['count']} of {count} scores came")


def send(world: World, platform: Callable[[float], str]) -> None:
    """10,000 scores, 32 in flight."""
    url = platform(SECONDS)
    made = fill(world, url, "send", items=SCORES // LEARNERS)
    turn_on(world, made)
    rate, allowed = sent(url, SCORES), IN_FLIGHT / SECONDS
    print(
        f"send: {SCORES} scores at {SECONDS * 1000:.0f} ms: {rate:.0f}/s, {rate / allowed:.0%} of"
        f" {allowed:.0f}/s (goal 80 %)"
    )


def post_all(
    url: str, headers: dict[str, str], bodies: list[tuple[str, bytes]], threads: int = 8
) -> float:
    """Post all; return how many a second."""
    pool = urllib3.PoolManager(maxsize=threads, retries=False)

    def one(each: tuple[str, bytes]) -> int:
        return pool.request("POST", f"{url}{each[0]}", body=each[1], headers=headers).status

    began = time.perf_counter()
    with ThreadPoolExecutor(threads) as workers:
        statuses = list(workers.map(one, bodies))
    if not set(statuses) <= {201, 204}:
        raise SystemExit(f"answers were {set(statuses)}")
    return len(bodies) / (time.perf_counter() - began)


def score(learner: str, number: int) -> bytes:
    """Return a score as a publisher reports it."""
    when = datetime(2027, 3, 1, tzinfo=UTC) + timedelta(seconds=number)
    return json.dumps(
        {
            "userId": learner,
            "timestamp": when.isoformat(),
            "activityProgress": "Completed",
            "gradingProgress": "FullyGraded",
            "scoreGiven": number % 11,
            "scoreMaximum": 10,
        }
    ).encode()


def reports(made: dict[str, Any], count: int) -> list[tuple[str, bytes]]:
    """Return reports of different cells, pairing after pairing."""
    found = []
    for number in range(count):
        each = made["pairings"][number % len(made["pairings"])]
        learner, placement = (
            each["learners"][number // 7 % len(each["learners"])],
            each["placements"][number % len(each["placements"])],
        )
        found.append(
            (
                f"/lti/platform/pairings/{each['pairing']}/lineitems/{placement}/scores",
                score(learner, number),
            )
        )
    return found


def lag(world: World, platform: Callable[[float], str]) -> None:
    """50 scores a second from the publisher, each its own."""
    made = fill(world, platform(SECONDS), "lag", items=20, learners=100, on=True, reports=False)
    pool, headers = (
        urllib3.PoolManager(maxsize=8),
        {"Authorization": f"Bearer {made['token']}", "Content-Type": MEDIA},
    )
    began = time.perf_counter()
    with ThreadPoolExecutor(8) as threads:
        for number, (path, body) in enumerate(reports(made, RATE * RATE_SECONDS)):
            time.sleep(max(0.0, began + number / RATE - time.perf_counter()))
            threads.submit(
                pool.request, "POST", f"{world.url('vennpair')}{path}", body=body, headers=headers
            )
    time.sleep(5)
    told = (
        world.run_apart(
            "vennpair",
            "shell",
            "-v",
            "0",
            "-c",
            _LAG.format(pairing=made["pairings"][0]["pairing"]),
        )
        .rpartition("MADE")[2]
        .split()
    )
    print(
        f"lag: {told[0]} of {RATE * RATE_SECONDS} scores at {RATE}/s: half within {told[1]} ms, 95"
        f" % within {told[2]} ms, all within {told[3]} ms (goal: 95 % under 2,000)"
    )


def accept(world: World, platform: Callable[[float], str]) -> None:
    """Accepting scores, against a bare DRF POST that writes one row; the worker rests meanwhile."""
    made = fill(
        world,
        platform(SECONDS),
        "accept",
        pairings=4,
        items=20,
        learners=100,
        on=True,
        reports=False,
    )
    world.end("worker")
    Cluster().ensure_database("bench_bare", fresh=True)
    port = free_port(0)
    command = [
        sys.executable,
        "-m",
        "gunicorn",
        "-w",
        "1",
        "--threads",
        "8",
        "-b",
        f"127.0.0.1:{port}",
        "--no-control-socket",
        "bench.bare_post:application",
    ]
    bare = subprocess.Popen(
        command,
        env=os.environ | {"BARE_DATABASE_URL": f"{Cluster().url}/bench_bare"},
        stderr=subprocess.DEVNULL,
    )
    try:
        row = json.dumps(
            {
                "user": "u",
                "timestamp": "2027-03-01T00:00:00Z",
                "given": "5",
                "maximum": "10",
                "activity": "Completed",
                "grading": "FullyGraded",
            }
        ).encode()
        rows = [("/rows", row)] * (ACCEPTED // 3)
        time.sleep(3)
        ours = reports(made, ACCEPTED)
        headers = {"Authorization": f"Bearer {made['token']}", "Content-Type": MEDIA}
        rates: list[tuple[float, float]] = []
        for turn in range(3):
            plain = post_all(f"http://127.0.0.1:{port}", {"Content-Type": "application/json"}, rows)
            rates.append(
                (
                    plain,
                    post_all(
                        world.url("vennpair"),
                        headers,
                        ours[turn * ACCEPTED // 3 : (turn + 1) * ACCEPTED // 3],
                    ),
                )
            )
        shares = sorted(mine / plain for plain, mine in rates)
        print(
            "accept:"
            f" {', '.join(f'{mine:.0f}/s beside {plain:.0f}/s bare' for plain, mine in rates)}:"
            f" {shares[1]:.2f} of a bare DRF POST (goal 0.33)"
        )
    finally:
        bare.kill()
        world.start_worker()


def workers(world: World, platform: Callable[[float], str]) -> None:
    """One worker, then two, to a platform that answers at once: the CPU is the limit."""
    rates = []
    for count in (1, 2):
        url = platform(0)
        made = fill(
            world, url, f"w{count}", pairings=PAIRINGS, items=SCORES // LEARNERS // PAIRINGS + 1
        )
        if count == 2:
            world.start_worker("second")
            time.sleep(4)
        turn_on(world, made)
        rates.append(sent(url, PAIRINGS * LEARNERS * (SCORES // LEARNERS // PAIRINGS + 1)))
    world.end("second")
    print(
        f"workers: one sends {rates[0]:.0f}/s, two {rates[1]:.0f}/s, {rates[1] / rates[0]:.2f}"
        " times"
    )


def main() -> None:
    """Run."""
    chosen = sys.argv[1:] or ["send", "lag", "accept", "workers"]
    world, started = World("bench"), []

    def platform(seconds: float) -> str:
        port = free_port(0)
        started.append(
            subprocess.Popen([sys.executable, "-m", "bench.slow_platform", str(port), str(seconds)])
        )
        time.sleep(1)
        return f"http://127.0.0.1:{port}"

    world.start(fresh=True)
    try:
        for name in chosen:
            {"send": send, "lag": lag, "accept": accept, "workers": workers}[name](world, platform)
    finally:
        world.stop()
        for each in started:
            each.kill()


if __name__ == "__main__":
    main()
