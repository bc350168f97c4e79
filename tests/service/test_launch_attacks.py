"""Every attack on a launch is refused, with a page that says what the person can do.

The state before is kept.
"""

from __future__ import annotations

import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import httpx
import pytest
from tools.world import at_service
from tools.world.world import World

from tests.service.platform import TestPlatform
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.jwt import sign


@pytest.fixture(scope="module")
def platform(world: World) -> Iterator[TestPlatform]:
    made = TestPlatform(world)
    yield made
    made.close()


@pytest.fixture
def browser() -> Iterator[httpx.Client]:
    with httpx.Client() as client:
        yield client


def assert_refused(answer: httpx.Response, code: str) -> None:
    assert answer.status_code == 400
    assert f"Code {code}" in answer.text
    assert "could not be opened" in answer.text
    assert "Nothing was changed." in answer.text
    assert "sessionid" not in answer.cookies
    assert "vennpair_session" not in answer.cookies


def test_a_good_launch_signs_in_and_leads_to_the_console(
    platform: TestPlatform, browser: httpx.Client
) -> None:
    answer = platform.launch(browser)
    assert answer.status_code == 302
    assert answer.headers["location"].startswith("/set-up?shell=")
    assert browser.get(f"{platform.service}/api/v1/me").json()["name"] == "Test Teacher"


NOW = int(time.time())


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"iss": "https://other.example"}, "wrong_issuer"),
        ({"aud": "somebody-else"}, "wrong_audience"),
        ({"aud": ["pair-client", "other"]}, "wrong_audience"),
        ({"azp": "other"}, "wrong_audience"),
        ({"exp": NOW - 3600}, "expired"),
        ({"iat": NOW + 7200, "exp": NOW + 9000}, "not_yet"),
        ({"nonce": "another"}, "bad_nonce"),
        ({"nonce": None}, "bad_nonce"),
        ({v.DEPLOYMENT_ID: "deployment-2"}, "bad_deployment"),
        ({v.DEPLOYMENT_ID: None}, "bad_message"),
        ({v.VERSION: "1.1"}, "bad_message"),
        ({v.MESSAGE_TYPE: "LtiUnknownRequest"}, "bad_message"),
        ({"sub": None}, "bad_message"),
        ({v.CONTEXT: None}, "no_context"),
    ],
)
def test_wrong_claims(
    platform: TestPlatform, browser: httpx.Client, changes: dict[str, Any], code: str
) -> None:
    assert_refused(platform.launch(browser, **changes), code)


def test_a_stranger_s_signature(platform: TestPlatform, browser: httpx.Client) -> None:
    assert_refused(platform.launch(browser, key=platform.stranger), "unknown_key")


def test_a_forged_signature_under_the_right_key_id(
    platform: TestPlatform, browser: httpx.Client
) -> None:
    asked = platform.asked(platform.begin(browser))
    head, body, _ = sign(platform.claims(asked["nonce"]), platform.key).split(".")
    other = sign(platform.claims(asked["nonce"], sub="admin"), platform.stranger).split(".")[2]
    assert_refused(
        platform.post(browser, asked["state"], f"{head}.{body}.{other}"), "bad_signature"
    )


def test_an_unsigned_message(platform: TestPlatform, browser: httpx.Client) -> None:
    asked = platform.asked(platform.begin(browser))
    body = sign(platform.claims(asked["nonce"]), platform.key).split(".")[1]
    assert_refused(
        platform.post(browser, asked["state"], f"eyJhbGciOiJub25lIn0.{body}."), "bad_algorithm"
    )


def test_a_state_that_was_never_given(platform: TestPlatform, browser: httpx.Client) -> None:
    assert_refused(platform.launch(browser, state="made-up"), "bad_state")


def test_a_state_of_another_browser(platform: TestPlatform, browser: httpx.Client) -> None:
    with httpx.Client() as victim:
        asked = platform.asked(platform.begin(browser))
        assert_refused(
            platform.post(
                victim, asked["state"], sign(platform.claims(asked["nonce"]), platform.key)
            ),
            "bad_state",
        )


def test_a_message_replayed(platform: TestPlatform, browser: httpx.Client) -> None:
    asked = platform.asked(platform.begin(browser))
    token = sign(platform.claims(asked["nonce"]), platform.key)
    assert platform.post(browser, asked["state"], token).status_code == 302
    assert_refused(platform.post(browser, asked["state"], token), "bad_state")


def test_an_old_message_under_a_new_state(platform: TestPlatform, browser: httpx.Client) -> None:
    first = platform.asked(platform.begin(browser))
    token = sign(platform.claims(first["nonce"]), platform.key)
    assert platform.post(browser, first["state"], token).status_code == 302
    second = platform.asked(platform.begin(browser))
    assert_refused(platform.post(browser, second["state"], token), "bad_nonce")


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"iss": "https://nobody.example"}, "unknown_platform"),
        ({"client_id": "another-client"}, "unknown_platform"),
        ({"iss": ""}, "bad_login"),
        ({"login_hint": ""}, "bad_login"),
        ({"target_link_uri": "https://evil.example/"}, "bad_login"),
        ({"lti_message_hint": "x" * 5000}, "bad_login"),
    ],
)
def test_wrong_login_requests(
    platform: TestPlatform, browser: httpx.Client, changes: dict[str, str], code: str
) -> None:
    assert_refused(platform.begin(browser, **changes), code)


def test_a_doubled_parameter(platform: TestPlatform, browser: httpx.Client) -> None:
    url = f"{platform.service}/lti/login?iss={platform.issuer}&iss=https://evil.example&login_hint=u1&target_link_uri={platform.service}/lti/launch"
    assert_refused(browser.get(url), "bad_login")


def test_the_platform_s_own_refusal_is_shown(platform: TestPlatform, browser: httpx.Client) -> None:
    answer = browser.post(
        f"{platform.service}/lti/launch",
        data={"error": "login_required", "error_description": "<b>Sign in</b> first"},
    )
    assert_refused(answer, "platform_refused")
    assert "&lt;b&gt;Sign in" in answer.text


def test_a_learner_finds_no_console(platform: TestPlatform, browser: httpx.Client) -> None:
    answer = platform.launch(browser, **{v.ROLES: [v.LEARNER], "sub": "learner-1"})
    assert_refused(answer, "not_for_learners")
    assert browser.get(f"{platform.service}/api/v1/me").status_code == 401


def test_a_learner_s_launch_without_services_takes_none_away(
    world: World, platform: TestPlatform, browser: httpx.Client
) -> None:
    services = {
        v.AGS_CLAIM: {"scope": [v.SCOPE_SCORE], "lineitems": "https://campus.example/items"}
    }
    assert platform.launch(browser, **services).status_code == 302
    platform.launch(browser, **{v.ROLES: [v.LEARNER], "sub": "learner-2"})

    def lineitems() -> str:
        return at_service.shell_field(world, "lineitems_url", platform__issuer=platform.issuer)

    assert lineitems() == "https://campus.example/items"
    assert platform.launch(browser).status_code == 302
    assert not lineitems().endswith("items")


def test_the_windows_that_a_newcomer_opens_at_once_all_open(platform: TestPlatform) -> None:
    def open_one(subject: str) -> int:
        with httpx.Client(timeout=30) as browser:
            return platform.launch(
                browser, sub=subject, email=f"{subject}@newcomers.example"
            ).status_code

    for turn in range(5):
        with ThreadPoolExecutor(4) as threads:
            assert set(threads.map(open_one, [f"teacher-{turn}"] * 4)) == {302}


def test_the_second_hop_answers_only_the_browser_and_address_it_began_with(
    platform: TestPlatform, browser: httpx.Client
) -> None:
    params = {
        "scope": "openid",
        "response_type": "id_token",
        "response_mode": "form_post",
        "prompt": "none",
        "client_id": "nobody",
        "redirect_uri": "https://evil.example/",
        "login_hint": "u1",
        "state": "s",
        "nonce": "n",
    }
    assert_refused(
        browser.get(f"{platform.service}/lti/platform/authorize", params=params), "unknown_client"
    )
