"""A platform of the tests' own: publishes keys, begins launches, and signs whatever it is
told to.
"""

from __future__ import annotations

import json
import time
from http.server import BaseHTTPRequestHandler
from typing import Any
from urllib.parse import parse_qs, urlsplit

import httpx
from tools.world.world import World

from tests.service.servers import serve
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.jwt import sign
from vennpair.standards.lti.keys import new_private_pem, private_key, public_jwks
from vennpair.standards.lti.launch import Context, Launch, Person, write_launch


class TestPlatform:
    """Registered with the service under its own issuer."""

    __test__ = False

    def __init__(self, world: World, name: str = "Test Platform") -> None:
        self.key = private_key(*new_private_pem())
        self.stranger = private_key(*new_private_pem())
        self._server = serve(self._handler())
        self.issuer = f"http://127.0.0.1:{self._server.server_port}"
        self.service = world.url("vennpair")
        with world.administrator() as venn:
            addresses = {
                f"{what}_url": f"{self.issuer}/{path}"
                for what, path in (
                    ("authorization", "authorize"),
                    ("token", "token"),
                    ("jwks", "jwks"),
                )
            }
            venn.add_platform(
                name=name,
                issuer=self.issuer,
                client_id="pair-client",
                deployment_ids=["deployment-1"],
                **addresses,
            )

    def close(self) -> None:
        """Stop publishing keys."""
        self._server.shutdown()
        self._server.server_close()

    def begin(self, browser: httpx.Client, **changes: str) -> httpx.Response:
        """Begin a launch; return the service's answer, which should be a redirect back to us."""
        params = {
            "iss": self.issuer,
            "login_hint": "u1",
            "target_link_uri": f"{self.service}/lti/launch",
            "client_id": "pair-client",
            "lti_message_hint": "m1",
        } | changes
        return browser.get(
            f"{self.service}/lti/login",
            params={name: value for name, value in params.items() if value},
        )

    def asked(self, answer: httpx.Response) -> dict[str, str]:
        """Return the parameters of the authentication request in a redirect."""
        assert answer.status_code == 302, answer.text
        return {
            name: values[0]
            for name, values in parse_qs(urlsplit(answer.headers["location"]).query).items()
        }

    def claims(self, given_nonce: str, **changes: Any) -> dict[str, Any]:
        """Return good claims of an instructor's launch, changed as asked.

        None takes a claim out.
        """
        now = int(time.time())
        launch = Launch(
            Person("u1", "Test Teacher", "Test", "Teacher", "teacher@test.example"),
            "deployment-1",
            f"{self.service}/lti/launch",
            "nav",
            (v.INSTRUCTOR,),
            Context("c1", "Course", "C 1"),
        )
        good = write_launch(launch) | {
            "iss": self.issuer,
            "aud": "pair-client",
            "iat": now,
            "exp": now + 300,
            "nonce": given_nonce,
        }
        return {name: value for name, value in (good | changes).items() if value is not None}

    def post(self, browser: httpx.Client, state: str, token: str) -> httpx.Response:
        """Deliver a signed message by way of the browser."""
        return browser.post(f"{self.service}/lti/launch", data={"state": state, "id_token": token})

    def launch(
        self, browser: httpx.Client, key: Any = None, state: str = "", **changes: Any
    ) -> httpx.Response:
        """Do a whole launch with changed claims; return the service's last answer."""
        asked = self.asked(self.begin(browser))
        return self.post(
            browser,
            state or asked["state"],
            sign(self.claims(asked["nonce"], **changes), key or self.key),
        )

    def _handler(self) -> type[BaseHTTPRequestHandler]:
        platform = self

        class Handler(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                body = json.dumps(public_jwks([platform.key])).encode()
                self.send_response(200)
                self.send_header("Content-Length", str(len(body)))
                self.end_headers()
                self.wfile.write(body)

            def log_message(self, *words: Any) -> None:
                return

        return Handler
