"""Two machines with web and workers, one database and a proxy in front: one of them dies while
sections are placed, scores come in and a package is sent, and nothing is lost or done twice.
"""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

import httpx
import pytest
from tools.world import at_press, at_service
from tools.world.actors import hand_in
from tools.world.differences import until_scores
from tools.world.hold import hold, until
from tools.world.ports import free_port
from tools.world.world import World

from tests.conftest import Sides
from tests.service.campus import read_shell
from tests.standards.packages import package
from vennpair.client import VennPair
from vennpair.client.schema import Package
from vennpair.standins.tarnfield import section

NGINX = Path("/usr/sbin/nginx")
pytestmark = [
    pytest.mark.timed,
    pytest.mark.skipif(not NGINX.exists(), reason="this machine has no nginx"),
]
FIRST, SECOND = "127.0.0.2", "127.0.0.3"
ITEM, PART_BYTES = "Practice set 1A", 4_000_000
LEARNERS = section(2)[:6]
CONFIGURATION = """
daemon off; worker_processes 1; pid {folder}/nginx.pid; error_log {folder}/error.log;
events {{ }}
http {{
  access_log off; client_body_temp_path {folder}; proxy_temp_path {folder};
  fastcgi_temp_path {folder}; uwsgi_temp_path {folder}; scgi_temp_path {folder};
  large_client_header_buffers 4 16k; client_max_body_size 2600m;
  upstream service {{ {servers} }}
  server {{
    listen {port};
    location / {{
      proxy_pass http://service; proxy_set_header Host $http_host;
      proxy_set_header X-Request-ID $request_id; proxy_request_buffering off;
      proxy_connect_timeout 2s; proxy_next_upstream error timeout;
      proxy_max_temp_file_size 0;
    }}
  }}
}}
"""


class Machine:
    """Web and workers that answer at an address of their own, and end together."""

    def __init__(self, world: World, host: str, workers: int, folder: Path) -> None:
        self.address = f"{host}:{free_port()}"
        environment = os.environ | world._environment("vennpair")
        environment.pop("VENNPAIR_ASKED_FILE", None)
        web = ("web", "--bind", self.address, "--processes", "1")
        self._log = (folder / f"{host}.log").open("wb")
        self._running = [
            subprocess.Popen(
                [sys.executable, "-m", "vennpair.service.server", *words],
                env=environment,
                stdout=self._log,
                stderr=self._log,
                start_new_session=True,
            )
            for words in (web, *[("work",)] * workers)
        ]

    def answers(self) -> bool:
        """Say whether its web does."""
        return answers(f"http://{self.address}")

    def die(self) -> None:
        """End at once, with all that runs there."""
        for each in self._running:
            if each.poll() is None:
                os.killpg(each.pid, signal.SIGKILL)
            each.wait()
        self._log.close()


def answers(base: str) -> bool:
    try:
        # As a balancer asks: a machine by its address, in the name of the service.
        host = {"Host": "127.0.0.1"}
        return httpx.get(f"{base}/livez", headers=host, timeout=5).status_code == 200
    except httpx.TransportError:
        return False


@contextmanager
def proxy(world: World, machines: list[Machine], folder: Path) -> Iterator[None]:
    """Run nginx where the world's own web was."""
    servers = " ".join(f"server {each.address} fail_timeout=1s;" for each in machines)
    facts = {"folder": folder, "servers": servers, "port": world.state["ports"]["vennpair"]}
    file = folder / "nginx.conf"
    file.write_text(CONFIGURATION.format(**facts))
    process = subprocess.Popen([str(NGINX), "-c", str(file), "-p", str(folder)])
    try:
        until(lambda: answers(world.url("vennpair")), lambda: (folder / "error.log").read_text())
        yield
    finally:
        process.terminate()
        process.wait()


@pytest.fixture
def two(world: World, tmp_path: Path) -> Iterator[tuple[Machine, Machine]]:
    """Two machines and a proxy take the place of the world's own web and worker."""
    world.end("worker")
    world.end("vennpair")
    first, second = Machine(world, FIRST, 2, tmp_path), Machine(world, SECOND, 1, tmp_path)
    try:
        until(lambda: first.answers() and second.answers(), lambda: "web of both machines")
        with proxy(world, [first, second], tmp_path):
            yield first, second
    finally:
        first.die()
        second.die()
        world.start_site("vennpair")
        world.start_worker()


def test_a_machine_that_dies_takes_nothing_with_it(
    world: World,
    venn: VennPair,
    new_pairing: Callable[[str], tuple[Sides, str]],
    request: pytest.FixtureRequest,
) -> None:
    (busy, relayed), (placed, pairing) = (new_pairing(f"HYD 210-HOST{each}") for each in (1, 2))
    item = [each["id"] for each in venn.items(relayed) if each["title"] == ITEM]
    venn.wait(venn.deploy(relayed, item, folder="Homework")[0]["job"])
    venn.change_pairing(relayed, relay_on=True)
    for learner in LEARNERS:  # each has an account at the publisher
        hand_in(world, learner.email, busy.context_id, ITEM, 1)
    until_scores(venn, relayed, accepted=6)
    items = [each["id"] for each in venn.items(pairing) if each["kind"] == "graded"]
    (plan,) = venn.plan(pairing, items, folder="Homework")
    first, _ = request.getfixturevalue("two")
    data = package() + b"\0" * (2 * PART_BYTES)
    path = f"/pairings/{pairing}/packages"
    begun = venn._post(Package, path, {"filename": "x.imscc", "size": len(data)})
    parts = [data[start : start + PART_BYTES] for start in range(0, len(data), PART_BYTES)]

    def send(number: int) -> None:
        octets = {"Content-Type": "application/octet-stream"}
        part = f"{path}/{begun['id']}/parts/{number}"
        venn._call(Package, "PUT", part, content=parts[number], extra=octets)

    def report(email: str) -> None:
        try:
            at_press.answer(world, busy.course, email, ITEM, "8")
        except RuntimeError as error:
            # It was with the machine that died, and a proxy sends no POST twice: publishers do.
            if "502 Bad Gateway" not in str(error):
                raise
            at_press.answer(world, busy.course, email, ITEM, "8", regrade=True)

    send(0)
    with hold(world, "campus", "POST", "/entries$", after=9, hold="before") as held:
        (rollout,) = venn.deploy(pairing, items, folder="Homework")
        held.wait()
        with ThreadPoolExecutor(8) as threads:
            reports = [threads.submit(report, each.email) for each in LEARNERS]
            sent = [threads.submit(send, number) for number in (1, 2)]
            first.die()
            for each in (*reports, *sent):
                each.result()
    at_service.tick(world)  # as the other machine's clock does every minute
    venn.wait(rollout["job"], seconds=180)
    assert venn._http.get(f"{path}/{begun['id']}/content").content == data
    found = read_shell(world, placed.context_id)
    titles = [row["title"] for row in found["links"] if row["folder"] == "Homework"]
    assert len(titles) == len(set(titles)) == plan["make"] > 30
    assert len(found["columns"]) == plan["columns"]
    until(
        lambda: {row["reported"] for row in venn.scores(relayed)} == {"8"},
        lambda: [row["reported"] for row in venn.scores(relayed)],
        seconds=180,
    )
    until_scores(venn, relayed, accepted=6)
