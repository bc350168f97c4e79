"""Nobody keeps a right that was taken away, guesses a password, or holds up another college."""

from __future__ import annotations

import threading
import time
import uuid
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

import httpx
import pytest
from tools.world import at_service
from tools.world.hold import until
from tools.world.world import World

from tests.service.platform import TestPlatform
from vennpair.client import NotAllowed, Refusal, VennPair
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.jwt import sign

PASSWORD = "where-rivers-begin"


@pytest.fixture(scope="module")
def platform(world: World) -> Iterator[TestPlatform]:
    made = TestPlatform(world, "Trust Platform")
    yield made
    made.close()


class Somebody:
    """An instructor who launched: a browser with a session, and a token of the command line."""

    def __init__(self, world: World, platform: TestPlatform) -> None:
        self.sub, self.base = f"t-{uuid.uuid4().hex[:8]}", f"{world.url('vennpair')}/api/v1"
        self.email = f"{self.sub}@trust.example"
        self.browser, self._platform = httpx.Client(timeout=30), platform
        assert self.launch(self.browser).status_code == 302
        world.manage("vennpair", "set_password", self.email, "--password", PASSWORD)
        assert self.launch(self.browser).status_code == 302
        self.token = self.sign_in().json()["token"]

    def launch(self, browser: httpx.Client, **claims: Any) -> httpx.Response:
        """Launch the tool from the platform."""
        facts = {"sub": self.sub, "email": self.email} | claims
        return self._platform.launch(browser, **facts)

    def sign_in(self, password: str = PASSWORD, **more: Any) -> httpx.Response:
        """Sign in with a password."""
        body = {"username": self.email, "password": password} | more
        return httpx.post(f"{self.base}/sign-in", json=body, timeout=30)

    @property
    def session(self) -> int:
        """Return what the browser's session is answered."""
        return self.browser.get(f"{self.base}/me").status_code

    @property
    def scripts(self) -> int:
        """Return what the token is answered."""
        headers = {"Authorization": f"Bearer {self.token}"}
        return httpx.get(f"{self.base}/me", headers=headers, timeout=30).status_code


@pytest.fixture
def somebody(world: World, platform: TestPlatform) -> Somebody:
    made = Somebody(world, platform)
    assert (made.session, made.scripts, made.token[:4]) == (200, 200, "vnp_")
    return made


def person(admin: VennPair, who: Somebody) -> Any:
    return next(row for row in admin.people() if row["username"] == who.email)


def test_who_is_blocked_is_out_everywhere_at_once(world: World, somebody: Somebody) -> None:
    with world.administrator() as admin:
        key = person(admin, somebody)["id"]
        assert admin.block_person(key)["blocked"] is True
        assert (somebody.session, somebody.scripts) == (401, 401)
        assert somebody.sign_in().status_code == 401
        with httpx.Client(timeout=30) as fresh:
            assert "Code blocked" in somebody.launch(fresh).text
        assert admin.block_person(key, blocked=False)["blocked"] is False
        assert (somebody.session, somebody.scripts) == (401, 401), (
            "nothing comes back automatically"
        )
        assert somebody.launch(somebody.browser).status_code == 302
        assert somebody.session == 200
        admin.remove_person(key)
        assert somebody.session == 401
        me = next(row for row in admin.people() if row["role"] == "administrator")
        with pytest.raises(Refusal, match="cannot block yourself"):
            admin.block_person(me["id"])


def test_a_platform_that_is_switched_off_ends_the_sessions_that_came_from_it(
    world: World, somebody: Somebody
) -> None:
    with world.administrator() as admin:
        key = next(row["id"] for row in admin.platforms() if row["name"] == "Trust Platform")
        admin.change_platform(key, active=False)
        assert (somebody.session, somebody.scripts) == (401, 200)
        admin.change_platform(key, active=True)
    assert somebody.launch(somebody.browser).status_code == 302


def test_a_learner_s_launch_ends_an_instructor_s_session_in_that_browser(
    somebody: Somebody,
) -> None:
    learner = {"sub": "learner-9", v.ROLES: [v.LEARNER]}
    somebody.launch(somebody.browser, **learner)
    assert somebody.session == 401


def test_a_session_that_nobody_used_for_a_working_day_is_over(
    world: World, somebody: Somebody
) -> None:
    assert at_service.let_sessions_rest(world, somebody.email, 7.9) >= 1
    assert somebody.session == 200
    at_service.let_sessions_rest(world, somebody.email, 8.1)
    assert somebody.session == 401


def test_a_new_password_ends_tokens_and_every_other_session(
    world: World, somebody: Somebody
) -> None:
    with httpx.Client(timeout=30) as other:
        assert somebody.launch(other).status_code == 302
        page = f"{world.url('vennpair')}/access"
        somebody.browser.get(page)
        headers = {"X-CSRFToken": somebody.browser.cookies["vennpair_csrf"]}
        at = f"{somebody.base}/me/password"
        for weak in ("short", "password123", "12345678901234"):
            answer = somebody.browser.post(at, json={"password": weak}, headers=headers)
            assert answer.status_code == 400, weak
        changed = somebody.browser.post(at, json={"password": "stones-in-water"}, headers=headers)
        assert changed.status_code == 204
        assert (somebody.session, somebody.scripts) == (200, 401)
        assert other.get(f"{somebody.base}/me").status_code == 401
    assert somebody.sign_in().status_code == 401
    somebody.token = somebody.sign_in("stones-in-water").json()["token"]
    with VennPair(world.url("vennpair"), somebody.token) as client:
        client.sign_out(everywhere=True)
    assert (somebody.session, somebody.scripts) == (401, 401)


def test_guessing_waits_longer_each_time_and_locks_out_nobody_else(
    world: World, platform: TestPlatform, somebody: Somebody
) -> None:
    at_service.let_waits_end(world)
    answers = [somebody.sign_in(f"wrong-{number}").status_code for number in range(8)]
    assert answers[:5] == [401] * 5
    assert 429 in answers[5:]
    waiting = somebody.sign_in()
    assert (waiting.status_code, int(waiting.headers["Retry-After"]) >= 1) == (429, True)
    assert Somebody(world, platform).scripts == 200, "another account, from the same address"
    at_service.let_waits_end(world)
    assert somebody.sign_in().status_code == 200
    forwarded = {"X-Forwarded-For": "203.0.113.9"}
    for number in range(7):
        body = {"username": somebody.email, "password": f"no-{number}"}
        httpx.post(f"{somebody.base}/sign-in", json=body, headers=forwarded, timeout=30)
    assert somebody.sign_in().status_code == 429, (
        "an address that nobody vouches for counts nothing"
    )
    at_service.let_waits_end(world)


def test_the_console_s_sign_in_is_a_session_and_no_token(somebody: Somebody) -> None:
    answer = somebody.sign_in(session=True)
    assert answer.json()["token"] == ""
    assert "vennpair_session" in answer.cookies


def test_a_secret_is_in_no_kept_answer_and_a_token_outlives_none_that_made_it(
    world: World, somebody: Somebody
) -> None:
    at, headers = (
        f"{somebody.base}/me/tokens",
        {"Authorization": f"Bearer {somebody.token}", "Idempotency-Key": uuid.uuid4().hex},
    )
    body = {"name": "nightly", "scopes": ["read", "change"], "days": 2}
    first = httpx.post(at, json=body, headers=headers, timeout=30)
    again = httpx.post(at, json=body, headers=headers, timeout=30)
    assert (first.status_code, again.status_code) == (201, 409)
    assert again.json()["code"] == "answered_once"
    value = first.json()["token"]
    assert value not in at_service.kept_answers(world)
    with VennPair(world.url("vennpair"), value) as script:
        made = script.make_token("child", ["read"], days=300)
        assert made["expires"] <= first.json()["expires"]
        with pytest.raises((Refusal, NotAllowed)):
            script.make_token("greater", ["connect"])
        assert all(row["used_at"] for row in script.tokens() if row["name"] == "nightly")
        assert at_service.let_token_end(world, "nightly") == 1
        with pytest.raises(NotAllowed):
            script.tokens()
    with VennPair(world.url("vennpair"), somebody.token) as owner:
        assert [row["name"] for row in owner.tokens()] == ["child", "sign-in"]
        assert at_service.let_token_end(world, "child") == 1
        assert [row["name"] for row in owner.tokens()] == ["sign-in"], "before it is purged, too"


class Stuck:
    """A key set that is never told."""

    def __init__(self) -> None:
        self.asked, self.release = 0, threading.Event()
        outer = self

        class Handler(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                outer.asked += 1
                outer.release.wait(30)

            def log_message(self, *words: Any) -> None:
                return

        self._server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
        self.url = f"http://127.0.0.1:{self._server.server_port}"
        threading.Thread(target=self._server.serve_forever, daemon=True).start()

    def close(self) -> None:
        self.release.set()
        self._server.shutdown()
        self._server.server_close()


def test_a_platform_whose_keys_never_come_delays_no_other_s_launch(
    world: World, platform: TestPlatform
) -> None:
    stuck = Stuck()
    with world.administrator() as admin:
        admin.add_platform(
            name="Stuck Platform",
            issuer=stuck.url,
            client_id="stuck",
            deployment_ids=["d"],
            authorization_url=f"{stuck.url}/a",
            token_url=f"{stuck.url}/t",
            jwks_url=f"{stuck.url}/jwks",
        )
    service = world.url("vennpair")

    def forged() -> int:
        with httpx.Client(timeout=60) as browser:
            asked = browser.get(
                f"{service}/lti/login",
                params={
                    "iss": stuck.url,
                    "login_hint": "x",
                    "client_id": "stuck",
                    "target_link_uri": f"{service}/lti/launch",
                },
            )
            state = httpx.URL(asked.headers["location"]).params["state"]
            now = int(time.time())
            token = sign({"iss": stuck.url, "iat": now, "exp": now + 300}, platform.key)
            data = {"state": state, "id_token": token}
            return browser.post(f"{service}/lti/launch", data=data).status_code

    with ThreadPoolExecutor(16) as threads:
        held = [threads.submit(forged) for _ in range(16)]
        until(lambda: stuck.asked > 0, lambda: stuck.asked)
        with httpx.Client(timeout=30) as browser:
            launched = platform.launch(browser, sub="other-1")
        waiting = [each for each in held if not each.done()]
        assert launched.status_code == 302
        assert waiting, "they still wait for their own platform"
        stuck.release.set()
        assert all(each.result() >= 400 for each in held)
    stuck.close()


def test_only_registered_platforms_may_frame_a_page(world: World) -> None:
    page = httpx.get(f"{world.url('vennpair')}/")
    around = page.headers["content-security-policy"].partition("frame-ancestors ")[2].split()
    assert {"'self'", world.url("campus")} <= set(around)
    assert "*" not in around
    answer = httpx.get(f"{world.url('vennpair')}/api/v1/health")
    assert answer.headers["content-security-policy"].endswith("frame-ancestors 'none'")
    assert httpx.get(f"{world.url('vennpair')}/.well-known/security.txt").status_code == 404
