"""Registering in both roles with sides that share no code with ours, and every registration that
must be refused.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

import httpx
import pytest
from tools.world.browser import Browser
from tools.world.world import World

from tests.service.strict import StrictPlatform
from tests.service.strict_tool import StrictTool
from vennpair.client import Refusal, VennPair
from vennpair.standards.lti.registration import Registration, write_registration


@pytest.fixture(scope="module")
def admin(world: World) -> Iterator[VennPair]:
    with world.administrator() as client:
        yield client


@pytest.fixture(scope="module")
def platform() -> Iterator[StrictPlatform]:
    made = StrictPlatform()
    yield made
    made.close()


@pytest.fixture(scope="module")
def tool() -> Iterator[StrictTool]:
    made = StrictTool()
    yield made
    made.close()


def open_invitation(platform: StrictPlatform, link: str, **changes: str) -> httpx.Response:
    params = {
        "openid_configuration": f"{platform.url}/.well-known/openid-configuration",
        "registration_token": platform.token,
    } | changes
    return httpx.get(link, params=params, timeout=30)


def test_two_strangers_register_launch_and_are_paired_without_a_complaint(
    world: World, admin: VennPair, platform: StrictPlatform, tool: StrictTool
) -> None:
    link = admin.invite_platform("Strict Campus")["link"]
    page = open_invitation(platform, link)
    assert page.status_code == 200, page.text
    assert "org.imsglobal.lti.close" in page.text
    begun = admin.invite_publisher(f"{tool.url}/start")
    assert httpx.get(begun["open"], timeout=30).status_code == 200
    assert admin.invitation(begun["invitation"])["used_at"]
    publisher = next(each for each in admin.publishers() if each["name"] == "Strict Publishing")
    admin.change_publisher(
        publisher["id"],
        oneroster_url=tool.url,
        oneroster_token_url=f"{tool.url}/oauth/token",
        oneroster_client_id="api",
        oneroster_secret="s3cret",
    )
    with httpx.Client(timeout=30) as browser:
        answer = platform.begin(browser)
        assert answer.status_code == 302, answer.text
        headers = {"X-CSRFToken": browser.cookies.get("vennpair_csrf", "")}
        base = f"{world.url('vennpair')}/api/v1"
        shell = browser.get(f"{base}/shells").json()["results"][0]
        assert (shell["label"], shell["platform"]) == ("HYD 210-77", "Strict Campus")
        course = next(
            each
            for each in browser.get(
                f"{base}/courses", params={"q": "strict ed.", "refresh": "true"}
            ).json()["results"]
        )
        token = browser.get(
            f"{world.url('vennpair')}/access"
        ).headers  # the console's page sets the CSRF cookie
        headers = {"X-CSRFToken": browser.cookies.get("vennpair_csrf", "")}
        assert token
        made = browser.post(
            f"{base}/pairings",
            json={"shell": shell["id"], "course": course["id"], "agree": True},
            headers=headers,
        )
        assert made.status_code == 201, made.text
        checks = {
            each["code"]: each["state"]
            for each in browser.get(f"{base}/pairings/{made.json()['id']}/readiness").json()
        }
        assert (checks["roster"], checks["columns"], checks["publisher"], checks["outline"]) == (
            "ok",
            "ok",
            "ok",
            "warn",
        )
        account = browser.post(
            f"{base}/accounts", json={"publisher": publisher["id"]}, headers=headers
        ).json()
        follow = Browser()
        follow._http.cookies = browser.cookies
        follow.get(account["open"])
        assert follow.page.words == "Strict Publishing"
    assert [claims["name"] for claims in tool.launched] == ["Pia Marlow"]
    registered = next(each for each in admin.platforms() if each["name"] == "Strict Campus")
    assert registered["deployment_ids"] == [platform.deployment], (
        "the first launch tells the deployment where the registration did not"
    )
    steps = {step["step"]: step["state"] for step in admin.check_platform(registered["id"])}
    assert steps == {
        "keys": "ok",
        "launch address": "ok",
        "service: columns": "ok",
        "service: results": "ok",
        "service: scores": "ok",
        "service: roster": "ok",
        "service: outline": "skip",
        "launch": "ok",
    }
    assert {
        step["state"]
        for step in admin.check_publisher(publisher["id"])
        if step["step"] in {"login", "keys", "OneRoster: rostering"}
    } == {"ok"}
    assert platform.complaints == []
    assert tool.complaints == []
    admin.change_publisher(publisher["id"], active=False)


def test_a_link_is_good_once_and_another_deployment_must_be_accepted(
    admin: VennPair, platform: StrictPlatform
) -> None:
    link = admin.invite_platform()["link"]
    assert open_invitation(platform, link).status_code == 502, (
        "the platform's own token was spent; ours is not"
    )
    platform.token = "another"
    assert open_invitation(platform, link).status_code == 200
    platform.token = "a third"
    again = open_invitation(platform, link)
    assert again.status_code == 400
    assert "Code bad_invitation" in again.text
    with httpx.Client(timeout=30) as browser:
        refused = platform.begin(
            browser, **{"https://purl.imsglobal.org/spec/lti/claim/deployment_id": "elsewhere"}
        )
        assert "Code bad_deployment" in refused.text
        registered = next(
            each
            for each in admin.platforms()
            if each["issuer"] == platform.url and each["asked_deployments"]
        )
        assert registered["asked_deployments"] == ["elsewhere"]
        changed = admin.change_platform(
            registered["id"], deployment_ids=[*registered["deployment_ids"], "elsewhere"]
        )
        assert changed["asked_deployments"] == []
        assert (
            platform.begin(
                browser, **{"https://purl.imsglobal.org/spec/lti/claim/deployment_id": "elsewhere"}
            ).status_code
            == 302
        )
        admin.change_platform(registered["id"], active=False)
        login = browser.get(
            f"{platform.tool['initiate_login_uri']}",
            params={
                "iss": platform.url,
                "login_hint": "x",
                "target_link_uri": platform.tool["redirect_uris"][0],
                "client_id": "tool-42",
            },
        )
        assert "Code platform_off" in login.text
        admin.change_platform(registered["id"], active=True)


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"openid_configuration": ""}, "openid_configuration is missing"),
        ({"openid_configuration": "ftp://127.0.0.1/x"}, "not an absolute web address"),
        (
            {"openid_configuration": "http://platform.example/.well-known/openid-configuration"},
            "must begin with https",
        ),
        ({"openid_configuration": "http://127.0.0.1:9/none"}, "did not answer"),
        ({"registration_token": "x" * 7000}, "longer than 6000 characters"),
    ],
)
def test_bad_invitations_are_explained_and_spend_nothing(
    admin: VennPair, platform: StrictPlatform, changes: dict[str, str], words: str
) -> None:
    link = admin.invite_platform()["link"]
    answer = open_invitation(platform, link, **changes)
    assert answer.status_code in {400, 502}
    assert words in answer.text
    assert "Nothing was changed." in answer.text
    doubled = httpx.get(
        f"{link}?openid_configuration=https://a.example&openid_configuration=https://b.example"
    )
    assert "is there twice" in doubled.text


def test_a_stranger_s_browser_registers_nothing(world: World) -> None:
    answer = httpx.get(
        f"{world.url('vennpair')}/lti/register",
        params={"openid_configuration": "https://evil.example/c"},
    )
    assert answer.status_code == 403
    assert "Code not_administrator" in answer.text


GOOD = write_registration(
    Registration(
        "Some Press",
        "https://press.example/login",
        ("https://press.example/launch",),
        "https://press.example/jwks",
        "https://press.example/launch",
    )
)
TOOL = "https://purl.imsglobal.org/spec/lti-tool-configuration"


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"redirect_uris": []}, "invalid_redirect_uri"),
        ({"redirect_uris": ["http://press.example/launch"]}, "invalid_redirect_uri"),
        ({"redirect_uris": ["javascript:alert(1)"]}, "invalid_redirect_uri"),
        ({"redirect_uris": ["https://press.example/launch#part"]}, "invalid_redirect_uri"),
        ({"redirect_uris": "https://press.example/launch"}, "invalid_redirect_uri"),
        ({"initiate_login_uri": None}, "invalid_client_metadata"),
        ({"jwks_uri": "https://user@press.example/jwks"}, "invalid_client_metadata"),
        ({"client_name": "x" * 500}, "invalid_client_metadata"),
        ({"token_endpoint_auth_method": "client_secret_basic"}, "invalid_client_metadata"),
        ({"response_types": ["code"]}, "invalid_client_metadata"),
        ({"grant_types": ["implicit"]}, "invalid_client_metadata"),
        ({TOOL: None}, "invalid_client_metadata"),
        ({"client_name": "a\u0000b"}, "invalid_client_metadata"),
        ({"redirect_uris": ["https://press.example:port/launch"]}, "invalid_redirect_uri"),
        ({TOOL: {"target_link_uri": "https://press.example/launch"}}, "invalid_client_metadata"),
    ],
)
def test_bad_registrations_of_publishers_are_refused_and_the_token_stays_good(
    world: World, admin: VennPair, changes: dict[str, Any], code: str
) -> None:
    token = admin.invite_publisher("https://press.example/start")["open"].split(
        "registration_token="
    )[1]
    document = {name: value for name, value in (GOOD | changes).items() if value is not None}
    url, headers = (
        f"{world.url('vennpair')}/lti/platform/register",
        {"Authorization": f"Bearer {token}"},
    )
    answer = httpx.post(url, json=document, headers=headers)
    assert (answer.status_code, answer.json()["error"]) == (400, code)
    for body in ("<html>", "[" * 60_000, "[]", '"text"'):
        assert (
            httpx.post(url, content=body, headers=headers).json()["error"]
            == "invalid_client_metadata"
        )
    assert httpx.post(url, json=GOOD).status_code == 401
    assert "Some Press" not in [each["name"] for each in admin.publishers()]


def test_a_platform_that_answers_with_nonsense_is_named(
    world: World, admin: VennPair, tool: StrictTool
) -> None:
    with pytest.raises(Refusal) as caught:
        admin.register_at_platform(f"{world.url('campus')}/", "token")
    assert caught.value.code == "outside_not_json"
    with pytest.raises(Refusal) as caught:
        admin.register_at_platform(f"{tool.url}/jwks", "token")
    assert caught.value.code == "outside_bad_configuration"
    assert "issuer" in caught.value.message


def test_a_check_says_which_step_fails_and_whose_side_must_act(
    world: World, admin: VennPair
) -> None:
    made = admin.add_publisher(
        name="Wrong Press",
        login_url=f"{world.url('press')}/lti/login",
        launch_url=f"{world.url('press')}/lti/launch",
        jwks_url=f"{world.url('press')}/none",
        oneroster_url=world.url("press"),
        oneroster_token_url=f"{world.url('press')}/oauth/token",
        oneroster_client_id="nobody",
        oneroster_secret="wrong",
    )
    steps = {step["step"]: step for step in admin.check_publisher(made["id"])}
    assert (steps["login"]["state"], steps["login"]["side"]) == ("fail", "both")
    assert "does not know us under this client id" in steps["login"]["message"]
    assert (steps["keys"]["state"], steps["keys"]["side"]) == ("fail", "theirs")
    assert (steps["OneRoster: rostering"]["state"], steps["OneRoster: rostering"]["side"]) == (
        "fail",
        "both",
    )
    assert steps["course provisioning"]["state"] == "skip"
    assert "wrong" not in json.dumps(admin.change_publisher(made["id"], active=False)), (
        "a secret is never shown"
    )


def test_keys_rotate_with_overlap(world: World, admin: VennPair) -> None:
    before = next(key for key in admin.signing_keys() if key["signs"])
    for _ in range(2):
        world.manage("vennpair", "rotate_keys")
    (waiting,) = [key for key in admin.signing_keys() if key["signs_from"] > before["signs_from"]]
    trail = list(admin.audit(verb="keys.rotated"))
    assert len(trail) == 1, "one new key at a time"
    published = {
        key["kid"] for key in httpx.get(f"{world.url('vennpair')}/lti/jwks").json()["keys"]
    }
    assert {before["kid"], waiting["kid"]} <= published
    now = next(key for key in admin.signing_keys() if key["signs"])
    assert now["kid"] == before["kid"], "the new key waits until the others had time to read it"
    assert now["ends_at"] > waiting["signs_from"]
