"""Launches in a frame whose cookies are blocked: by client-side postMessage storage, and on in a
new window.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import httpx
import pytest
from lxml import html
from tools.world.world import World

from tests.service.platform import TestPlatform
from vennpair.standards.lti.jwt import sign


@pytest.fixture(scope="module")
def platform(world: World) -> Iterator[TestPlatform]:
    made = TestPlatform(world, "Frame Platform")
    yield made
    made.close()


@pytest.fixture
def frame() -> Iterator[httpx.Client]:
    """A browser that keeps no cookies, as in another site's frame."""
    with httpx.Client(
        event_hooks={"request": [lambda request: request.headers.pop("cookie", None)]}
    ) as client:
        yield client


def begin(platform: TestPlatform, frame: httpx.Client) -> tuple[dict[str, str], dict[str, str]]:
    """Begin a launch; return the authentication request's parameters and what the page keeps in the
    platform's frame.
    """
    page = platform.begin(frame, lti_storage_target="platform_storage")
    assert page.status_code == 200
    facts = dict(html.fromstring(page.text).xpath("//*[@id='facts']")[0].attrib)
    asked = dict(re.findall(r"(\w+)=([^&]*)", facts["data-onward"]))
    assert (facts["data-target"], facts["data-origin"]) == ("platform_storage", platform.issuer), (
        "only the platform's own origin is spoken to"
    )
    return asked, facts


def deliver(
    platform: TestPlatform,
    frame: httpx.Client,
    asked: dict[str, str],
    came_from: str = "same-origin",
    **fields: str,
) -> httpx.Response:
    token = sign(platform.claims(asked["nonce"]), platform.key)
    return frame.post(
        f"{platform.service}/lti/launch",
        data={"state": asked["state"], "id_token": token} | fields,
        headers={"Sec-Fetch-Site": came_from},
    )


def test_a_launch_goes_on_in_a_new_window_once(platform: TestPlatform, frame: httpx.Client) -> None:
    asked, facts = begin(platform, frame)
    asking = deliver(platform, frame, asked, "cross-site")
    assert 'name="proof"' in asking.text
    assert facts["data-value"] not in asking.text, "the proof comes from the frame, not from us"
    page = deliver(platform, frame, asked, proof=facts["data-value"])
    assert "Open in a new window" in page.text
    address = platform.service + html.fromstring(page.text).xpath("//a[@target='_blank']/@href")[0]
    with httpx.Client(headers={"Sec-Fetch-Site": "same-origin"}) as window:
        opened = window.get(address)
        assert opened.status_code == 302
        assert opened.headers["location"].startswith("/set-up?shell=")
        assert window.get(f"{platform.service}/api/v1/me").json()["name"] == "Test Teacher"
        assert "Code bad_ticket" in window.get(address).text


@pytest.mark.parametrize(
    "changes", [{"proof": "guessed"}, {"proof": "", "came_from": "same-origin"}]
)
def test_no_proof_no_launch(
    platform: TestPlatform, frame: httpx.Client, changes: dict[str, Any]
) -> None:
    asked, _ = begin(platform, frame)
    answer = deliver(platform, frame, asked, **changes)
    assert "Open in a new window" not in answer.text


def test_another_site_that_knows_the_proof_gets_nobody_in(
    platform: TestPlatform, frame: httpx.Client
) -> None:
    asked, facts = begin(platform, frame)
    assert (
        "Code bad_state"
        in deliver(platform, frame, asked, "cross-site", proof=facts["data-value"]).text
    )
    page = deliver(platform, frame, asked, proof=facts["data-value"])
    address = platform.service + html.fromstring(page.text).xpath("//a[@target='_blank']/@href")[0]
    assert "Code bad_ticket" in httpx.get(address, headers={"Sec-Fetch-Site": "cross-site"}).text
    assert "Code bad_ticket" in httpx.get(address).text


def test_without_storage_the_page_says_to_open_a_new_window(
    platform: TestPlatform, frame: httpx.Client
) -> None:
    asked = platform.asked(platform.begin(frame))
    answer = deliver(platform, frame, asked)
    assert "Code bad_state" in answer.text
    assert "open the link in a new window" in answer.text
