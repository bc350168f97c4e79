"""Deploying: a plan for 400 items and 10 shells, and a rollout of 200 items against a platform that
answers in 50 ms.

Usage: python -m bench.deploy   (a world of its own is laid and taken away)
"""

from __future__ import annotations

import json
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor

import urllib3
from tools.world.actors import CommandLine, arrive, sign_in
from tools.world.cluster import free_port
from tools.world.world import INSTRUCTOR, PASSWORD, World

from vennpair.client import VennPair

ITEMS, SHELLS, PLACED, SECONDS = 400, 10, 200, 0.05
_FILL = """
import json
from decimal import Decimal
from vennpair.service.connect.models import Platform, Publisher, User
from vennpair.service.content.models import Item
from vennpair.service.pair.models import *
platform = Platform.objects.get(issuer='{url}')
user = User.objects.get(username='{user}')
made = []
for number in range({shells}):
    at = f'{url}/s/{{number}}'
    shell = Shell.objects.create(platform=platform, context_id=f'bench-{{number}}', title='Bench', label=f'BENCH-{{number}}', timezone='America/Chicago', lineitems_url=f'{{at}}/lineitems', outline_url=f'{{at}}/outline', scopes=['urn:vennpair:scope:outline', 'https://purl.imsglobal.org/spec/lti-ags/scope/lineitem'])
    course = HomeworkCourse.objects.create(publisher=Publisher.objects.first(), sourced_id=f'bench-{{number}}', title='Bench', code=f'BENCH-{{number}}')
    pairing = Pairing.objects.create(shell=shell, course=course, state='live', made_by=user)
    Consent.objects.create(shell=shell, user=user)
    ShellRole.objects.create(shell=shell, user=user, role='instructor')
    Item.objects.bulk_create([Item(pairing=pairing, key=f'i{{each}}', title=f'Item {{each}}', shown_title=f'Item {{each}}', kind='graded', unit=f'Unit {{each // 40}}', position=each, points=Decimal(10), due_at='2027-03-12T23:59:00-06:00', category='Practice', line_item=f'l{{each}}') for each in range({items})])
    made.append(str(pairing.pk))
print('MADE' + json.dumps(made))
"""
_PLAN = """
import json, time
from django.conf import settings
from django.db import connection
from django.test.utils import CaptureQueriesContext
settings.ALLOWED_HOSTS.append('testserver')
from django.test import Client
from vennpair.service.connect.models import User
from vennpair.service.content.models import Item
client = Client(); client.force_login(User.objects.get(username='{user}'), backend='django.contrib.auth.backends.ModelBackend')
pairings = {pairings}
def plan(count, shells):
    items = [str(pk) for pk in Item.objects.filter(pairing=pairings[0]).order_by('position').values_list('pk', flat=True)[:count]]
    body = dict(items=items, into='unit', sections=[dict(pairing=each, shift_days=7) for each in pairings[1:shells]], dry_run=True)
    with CaptureQueriesContext(connection) as seen:
        began = time.process_time()
        answer = client.post(f'/api/v1/pairings/{{pairings[0]}}/rollouts', json.dumps(body), content_type='application/json')
        cpu = time.process_time() - began
    assert answer.status_code == 200, answer.content[:300]
    return cpu, len(seen), sum(shell['make'] for shell in answer.json()['shells'])
plan(10, 1)
for count, shells in ((40, 1), (400, 1), (40, 10), (400, 10)):
    cpu, queries, make = min(plan(count, shells) for _ in range(3))
    print(f'plan: {{count}} items x {{shells}} shells: {{make}} links, {{cpu:.2f}} s of CPU, {{queries}} queries')
"""


def bare(url: str, calls: int) -> float:
    """Return the calls a second that 16 threads reach with nothing between them and the
    platform.
    """
    pool = urllib3.PoolManager(maxsize=16)

    def send(number: int) -> None:
        pool.request(
            "POST",
            f"{url}/s/bare/outline/entries",
            body=json.dumps({"title": f"Bare {number}", "kind": "page"}),
        )

    began = time.perf_counter()
    with ThreadPoolExecutor(16) as threads:
        list(threads.map(send, range(calls)))
    return calls / (time.perf_counter() - began)


def rollout(venn: VennPair, pairing: str, url: str) -> None:
    """Place items and print how near it came to what the platform allows."""
    items = [item["id"] for item in venn.items(pairing)][:PLACED]
    before = json.loads(urllib3.request("GET", f"{url}/writes").data)["count"]
    began = time.perf_counter()
    job = venn.wait(venn.deploy(pairing, items, into="unit")[0]["job"])
    whole = time.perf_counter() - began
    told = json.loads(urllib3.request("GET", f"{url}/writes").data)
    writes, allowed = told["count"] - before, 16 / SECONDS
    print(
        f"rollout: {job['message']}; {writes} writes in {told['seconds']:.2f} s:"
        f" {writes / told['seconds']:.0f}/s, {writes / told['seconds'] / allowed:.0%} of"
        f" {allowed:.0f}/s; {whole:.2f} s from the click to the end"
    )


def main() -> None:
    """Run."""
    world, port = World("bench"), free_port(0)
    url = f"http://127.0.0.1:{port}"
    platform = subprocess.Popen(
        [sys.executable, "-m", "bench.slow_platform", str(port), str(SECONDS)]
    )
    world.start(fresh=True)
    try:
        arrive(world, "tarnfield-hyd210-02-s27")
        sign_in(world, CommandLine(world))
        with world.administrator() as admin:
            admin.add_platform(
                name="Slow",
                issuer=url,
                client_id="c",
                deployment_ids=["d"],
                authorization_url=f"{url}/a",
                token_url=f"{url}/token",
                jwks_url=f"{url}/jwks",
            )
        told = world.run_apart(
            "vennpair",
            "shell",
            "-v",
            "0",
            "-c",
            _FILL.format(url=url, user=INSTRUCTOR, shells=SHELLS, items=ITEMS),
        )
        pairings = json.loads(told.rpartition("MADE")[2])
        print(
            world.run_apart(
                "vennpair",
                "shell",
                "-v",
                "0",
                "-c",
                _PLAN.format(user=INSTRUCTOR, pairings=pairings),
            ).strip()
        )
        with VennPair(world.url("vennpair")) as stranger:
            token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
        with VennPair(world.url("vennpair"), token) as venn:
            rollout(venn, pairings[0], url)
        print(f"bare: {bare(url, 400):.0f}/s with 16 threads and nothing else to do")
    finally:
        world.stop()
        platform.kill()


if __name__ == "__main__":
    main()
