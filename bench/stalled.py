"""One college's launches while another college's platform answers a byte a second: how long each
takes, beside an undisturbed run.

    python -m bench.stalled

Goal: the 95th percentile within 1.5 times the undisturbed one. One web process with eight threads;
sixteen browsers go on opening the stalled platform's links throughout.
"""

from __future__ import annotations

import json
import statistics
import threading
import time
import uuid
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

LAUNCHES, DISTURBERS, CLIENT, DEPLOYMENT = 200, 16, "pair-client", "d1"
OTHER = "rolf.amsel@other.example"


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
            bad = Platform(other, service, "Stalled Platform", drips=True)
        calm = _percentile(good)
        over = threading.Event()
        disturbers = [
            threading.Thread(target=_disturb, args=(bad, over), daemon=True)
            for _ in range(DISTURBERS)
        ]
        for each in disturbers:
            each.start()
        time.sleep(2)
        disturbed = _percentile(good)
        over.set()
        print(
            f"{LAUNCHES} launches: p95 {calm:.0f} ms undisturbed, {disturbed:.0f} ms beside a"
            f" stalled platform, {disturbed / calm:.2f} times (goal: at most 1.5)"
        )
        good.close()
        bad.close()
    finally:
        world.stop()


def _percentile(platform: Platform) -> float:
    """Return the 95th percentile of a launch in ms; raises SystemExit for one that failed."""
    took = []
    with httpx.Client(timeout=60) as browser:
        for _ in range(LAUNCHES):
            began = time.perf_counter()
            answer = platform.launch(browser)
            took.append((time.perf_counter() - began) * 1000)
            if answer.status_code not in {200, 302}:
                raise SystemExit(f"a launch failed: {answer.text[:300]}")
    return statistics.quantiles(took, n=20)[-1]


def _disturb(platform: Platform, over: threading.Event) -> None:
    with httpx.Client(timeout=60, headers={"X-Request-Id": uuid.uuid4().hex}) as browser:
        while not over.is_set():
            with suppress(httpx.HTTPError, KeyError):
                platform.launch(browser)


if __name__ == "__main__":
    main()
