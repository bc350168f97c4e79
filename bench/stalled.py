"""One college's launches while another college's platform answers a byte a second: how long each
takes, beside an undisturbed run.

    python -m bench.stalled

Goal: the 95th percentile within 1.5 times the undisturbed one. One web process with eight threads;
sixteen browsers go on opening the stalled platform's links throughout, each some three seconds
after the answer to the one before. So that their load is not taken for the stall, it is measured
too with a platform in that place that answers at once. Each browser has connections of its own.
"""

from __future__ import annotations

import json
import statistics
import threading
import time
from contextlib import suppress
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from urllib.parse import parse_qs, urlsplit

import httpx
from tools.world.world import PASSWORD, World

from vennpair.client import VennPair
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.jwt import sign
from vennpair.standards.lti.keys import new_private_pem, private_key, public_jwks
from vennpair.standards.lti.launch import Context, Launch, Person, write_launch

LAUNCHES, PEOPLE, PAUSE, CLIENT, DEPLOYMENT = 200, 16, 3.0, "pair-client", "d1"
OTHER = "rolf.amsel@other.example"
FRESH = httpx.Limits(max_keepalive_connections=0)


class Platform:
    """A course platform that launches, registered at one institution; ``drips``: its key set comes
    a byte a second.
    """

    def __init__(self, admin: VennPair, service: str, name: str, *, drips: bool) -> None:
        self.key, self.service = private_key(*new_private_pem()), service
        self._server = ThreadingHTTPServer(("127.0.0.1", 0), self._handler(drips))
        threading.Thread(target=self._server.serve_forever, daemon=True).start()
        self.issuer = f"http://127.0.0.1:{self._server.server_port}"
        admin.add_platform(
            name=name,
            issuer=self.issuer,
            client_id=CLIENT,
            deployment_ids=[DEPLOYMENT],
            authorization_url=f"{self.issuer}/authorize",
            token_url=f"{self.issuer}/token",
            jwks_url=f"{self.issuer}/jwks",
        )

    def launch(self, browser: httpx.Client) -> httpx.Response:
        """Do a whole launch of an instructor; return the service's last answer."""
        browser.cookies.clear()
        target = f"{self.service}/lti/launch"
        begun = browser.get(
            f"{self.service}/lti/login",
            params={
                "iss": self.issuer,
                "login_hint": "u1",
                "target_link_uri": target,
                "client_id": CLIENT,
            },
        )
        asked = parse_qs(urlsplit(begun.headers["location"]).query)
        teacher = Person("u1", "Tilda Oake", "Tilda", "Oake", "tilda.oake@other.example")
        course = Context("c1", "Rivers", "HYD 210")
        launch = Launch(teacher, DEPLOYMENT, target, "nav", (v.INSTRUCTOR,), course)
        now = int(time.time())
        claims = write_launch(launch) | {
            "iss": self.issuer,
            "aud": CLIENT,
            "iat": now,
            "exp": now + 300,
            "nonce": asked["nonce"][0],
        }
        form = {"state": asked["state"][0], "id_token": sign(claims, self.key)}
        return browser.post(target, data=form)

    def close(self) -> None:
        """Stop."""
        self._server.shutdown()
        self._server.server_close()

    def _handler(self, drips: bool) -> type[BaseHTTPRequestHandler]:
        platform = self

        class Handler(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                body = json.dumps(public_jwks([platform.key])).encode()
                self.send_response(200)
                self.send_header("Content-Length", str(len(body)))
                self.end_headers()
                with suppress(OSError):
                    for at in range(0, len(body), 1 if drips else len(body)):
                        self.wfile.write(body[at : at + (1 if drips else len(body))])
                        time.sleep(1 if drips else 0)

            def log_message(self, *words: object) -> None:
                return

        return Handler


def main() -> None:
    """Print both percentiles."""
    world = World("stalled", kept=False)
    world.start(fresh=True)
    try:
        service = world.url("vennpair")
        words = ("--institution", "Other College", "--admin", OTHER, "--password", PASSWORD)
        world.manage("vennpair", "install", *words)
        with VennPair(service) as stranger:
            token = stranger.sign_in(OTHER, PASSWORD)["token"]
        with world.administrator() as admin, VennPair(service, token) as other:
            good = Platform(admin, service, "Good Platform", drips=False)
            busy = Platform(other, service, "Busy Platform", drips=False)
            bad = Platform(other, service, "Stalled Platform", drips=True)
        calm, loaded, stalled = (_beside(good, each) for each in (None, busy, bad))
        print(
            f"{LAUNCHES} launches: p95 {calm:.0f} ms undisturbed, {loaded:.0f} ms beside a platform"
            f" that answers, {stalled:.0f} ms beside one that is stalled: {stalled / calm:.2f} times"
            " undisturbed (goal: at most 1.5)"
        )
        for each in (good, busy, bad):
            each.close()
    finally:
        world.stop()


def _beside(good: Platform, other: Platform | None) -> float:
    """Return the 95th percentile of a launch in ms while people open links of ``other``."""
    over = threading.Event()
    people = [
        threading.Thread(
            target=_open_links, args=(other, over, PAUSE * (0.5 + each / PEOPLE)), daemon=True
        )
        for each in range(PEOPLE if other else 0)  # not in step with one another
    ]
    for each in people:
        each.start()
    time.sleep(2)
    found = _percentile(good)
    over.set()
    for each in people:
        each.join(60)
    return found


def _percentile(platform: Platform) -> float:
    """Return the 95th percentile of a launch in ms; raises SystemExit for one that failed."""
    took = []
    with httpx.Client(timeout=60, limits=FRESH) as browser:
        for _ in range(LAUNCHES):
            began = time.perf_counter()
            answer = platform.launch(browser)
            took.append((time.perf_counter() - began) * 1000)
            if answer.status_code not in {200, 302}:
                raise SystemExit(f"a launch failed: {answer.text[:300]}")
    return statistics.quantiles(took, n=20)[-1]


def _open_links(platform: Platform, over: threading.Event, pause: float) -> None:
    with httpx.Client(timeout=60, limits=FRESH) as browser:
        while not over.is_set():
            with suppress(httpx.HTTPError, KeyError):
                platform.launch(browser)
            over.wait(pause)


if __name__ == "__main__":
    main()
