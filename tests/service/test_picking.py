"""Deep Linking: a strict platform and the campus take what we pick, and we take what is picked at
the publisher.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

import httpx
import pytest
from tools.world.browser import Browser
from tools.world.hold import until
from tools.world.world import INSTRUCTOR, World

from tests.conftest import Sides
from tests.service.campus import read_shell
from tests.service.strict import StrictPlatform
from tests.service.strict_tool import StrictTool
from vennpair.client import VennPair


@pytest.fixture(scope="module")
def strict(world: World) -> Any:
    """A strict platform whose shell is paired with a strict publisher's course.

    Its instructor's browser with the API's address.
    """
    platform, tool = StrictPlatform(), StrictTool("Strict Pickings", "picked")
    base = f"{world.url('vennpair')}/api/v1"
    with world.administrator() as admin, httpx.Client(timeout=30) as browser:
        params = {
            "openid_configuration": f"{platform.url}/.well-known/openid-configuration",
            "registration_token": platform.token,
        }
        assert (
            httpx.get(
                admin.invite_platform("Strict Picker")["link"], params=params, timeout=30
            ).status_code
            == 200
        )
        assert (
            httpx.get(admin.invite_publisher(f"{tool.url}/start")["open"], timeout=30).status_code
            == 200
        )
        publisher = next(each for each in admin.publishers() if each["name"] == "Strict Pickings")
        admin.change_publisher(
            publisher["id"],
            oneroster_url=tool.url,
            oneroster_token_url=f"{tool.url}/oauth/token",
            oneroster_client_id="api",
            oneroster_secret="s3cret",
        )
        assert platform.begin(browser).status_code == 302
        prove(browser, base)
        shell = next(
            each
            for each in browser.get(f"{base}/shells").json()["results"]
            if each["platform"] == "Strict Picker"
        )
        course = next(
            each
            for each in browser.get(
                f"{base}/courses", params={"q": "picked ed.", "refresh": "true"}
            ).json()["results"]
            if not each["paired"]
        )
        pairing = browser.post(
            f"{base}/pairings", json={"shell": shell["id"], "course": course["id"], "agree": True}
        ).json()["id"]
        job = browser.post(
            f"{base}/pairings/{pairing}/imports", json={"source": "catalogue"}
        ).json()["job"]

        def asked() -> Any:
            return browser.get(f"{base}/jobs/{job['id']}").json()

        until(lambda: asked()["state"] in {"done", "failed"}, asked)
        yield platform, browser, base, pairing
        prove(browser, base)
        assert (
            browser.patch(f"{base}/pairings/{pairing}", json={"state": "ended"}).status_code == 200
        )
        assert tool.complaints == []
        admin.change_publisher(publisher["id"], active=False)
    platform.close()
    tool.close()


def prove(browser: httpx.Client, base: str) -> None:
    """Take the CSRF token of the session, as the console does; signing in makes a new one."""
    browser.get(base.replace("/api/v1", "/access"))
    browser.headers["X-CSRFToken"] = browser.cookies.get("vennpair_csrf", "")


def begin(strict: Any, **settings: Any) -> tuple[str, list[str]]:
    """Begin picking; return the picking's address in the API and the items' ids."""
    platform, browser, base, pairing = strict
    arrived = platform.pick(browser, **settings)
    assert arrived.status_code == 302, arrived.text
    prove(browser, base)
    key = re.search(r"/pick/([0-9a-f-]+)$", arrived.headers["location"])
    assert key is not None
    items = browser.get(f"{base}/pairings/{pairing}/items", params={"kind": "graded"}).json()[
        "results"
    ]
    return f"{base}/pickings/{key[1]}", [item["id"] for item in items]


def test_a_strict_platform_takes_what_was_picked_without_a_complaint(strict: Any) -> None:
    platform, browser, _, pairing = strict
    at, items = begin(strict, accept_multiple=True, auto_create=True)
    about = browser.get(at).json()
    assert (about["pairing"], about["multiple"], about["columns"]) == (pairing, True, True)
    plan = browser.post(
        f"{at}/answer",
        json={
            "items": items[:2],
            "dry_run": True,
            "pattern": "{number}. {title}",
            "shown_before": 7,
        },
    )
    assert [row["target"]["title"] for row in plan.json()["rows"]] == ["1. Quiz 1", "2. Quiz 2"]
    answer = browser.post(
        f"{at}/answer", json={"items": items[:2], "pattern": "{number}. {title}", "shown_before": 7}
    )
    assert answer.status_code == 201, answer.text
    assert answer.json()["url"] == platform.asked["deep_link_return_url"]
    given = platform.picked(answer.json()["token"])
    assert [
        (each["title"], each["lineItem"]["scoreMaximum"], each["submission"]["endDateTime"])
        for each in given
    ] == [
        ("1. Quiz 1", 7.5, "2027-02-01T23:59:00-06:00"),
        ("2. Quiz 2", 15, "2027-02-02T23:59:00-06:00"),
    ]
    assert given[0]["available"] == {"startDateTime": "2027-01-25T23:59:00-06:00"}
    again = browser.post(f"{at}/answer", json={"items": items[2:]})
    assert (again.status_code, again.json()["code"]) == (409, "pick_over")
    assert platform.complaints == []


def test_only_what_the_platform_takes_is_answered(strict: Any) -> None:
    platform, browser, _, _ = strict
    at, items = begin(strict)
    several = browser.post(f"{at}/answer", json={"items": items})
    assert (several.status_code, several.json()["code"]) == (422, "one_only")
    at, items = begin(strict, accept_lineitem=False)
    answer = browser.post(f"{at}/answer", json={"items": items[2:]}).json()
    assert "lineItem" not in platform.picked(answer["token"])[0]
    at, items = begin(strict, accept_types=["html"])
    assert (
        browser.post(f"{at}/answer", json={"items": items[:1]}).json()["code"] == "type_not_taken"
    )
    assert platform.complaints == []


def test_a_learner_and_a_bad_request_get_no_further(strict: Any) -> None:
    platform, browser, base, _ = strict
    learner = platform.begin(
        browser,
        **{
            "https://purl.imsglobal.org/spec/lti/claim/message_type": "LtiDeepLinkingRequest",
            "https://purl.imsglobal.org/spec/lti-dl/claim/deep_linking_settings": platform.asked,
            "https://purl.imsglobal.org/spec/lti/claim/roles": [
                "http://purl.imsglobal.org/vocab/lis/v2/membership#Learner"
            ],
        },
    )
    assert learner.status_code == 400
    assert "not_for_learners" in learner.text
    assert "bad_message" in platform.pick(browser, deep_link_return_url="javascript:alert(1)").text
    assert "bad_message" in platform.pick(browser, accept_types=[]).text
    at, _ = begin(strict)
    with httpx.Client() as stranger:
        assert stranger.get(at).status_code == 401
    assert browser.get(f"{base}/pickings/00000000-0000-4000-8000-000000000000").status_code == 404


def test_the_campus_takes_several_items_and_their_links_open(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-PICK")
    items = [item["id"] for item in venn.items(pairing, kind="graded")][:3]
    teacher = Browser()
    teacher.sign_in(world.url("campus"), INSTRUCTOR)
    teacher.get(f"{world.url('campus')}/shells/{sides.context_id}")
    teacher.submit("//form[@id='pick']")
    picking = teacher.page.url.rpartition("/pick/")[2]
    answer = venn.answer_picking(picking, items, shift_days=7, category="none")
    page = Browser()
    page.page.url, page.page.text = (
        world.url("vennpair"),
        (
            f"<form method='post' action='{answer['url']}'><input type='hidden' name='JWT'"
            f" value='{answer['token']}'></form>"
        ),
    )
    assert "Practice set 1A" in page.submit().words
    found = read_shell(world, sides.context_id)
    assert [(each["title"], each["points"], each["end"]) for each in found["columns"]] == [
        ("Practice set 1A", "10", "2027-01-26T23:59:00-06:00"),
        ("Practice set 1B", "10", "2027-01-28T23:59:00-06:00"),
        ("Unit 1 quiz", "20", "2027-01-29T23:59:00-06:00"),
    ]
    venn.wait(venn.look_for_drift(pairing))
    assert {each["state"] for each in venn.placements(pairing)} == {"placed"}
    check = venn.check_as_learner(pairing)
    venn.wait(check["job"])
    assert {row["opens"] for row in venn.learner_check(pairing, check["id"])["rows"]} == {"yes"}


def test_what_is_picked_at_the_publisher_becomes_items_of_ours(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    sides, pairing = new_pairing("HYD 210-ASK")
    before = {item["id"]: item["title"] for item in venn.items(pairing)}
    teacher = Browser()
    teacher.sign_in(world.url("campus"), INSTRUCTOR)
    teacher.open_link(world.url("campus"), sides.context_id)
    teacher.get(f"{world.url('vennpair')}/access")
    token = teacher._http.cookies.get("vennpair_csrf", "")
    asked = teacher._http.post(
        f"{world.url('vennpair')}/api/v1/pairings/{pairing}/asks", headers={"X-CSRFToken": token}
    )
    assert asked.status_code == 201, asked.text
    page = teacher.get(asked.json()["url"])
    assert "Choose from Rivers and Groundwater" in page.words
    boxes = page.tree.xpath(
        "//label[contains(., 'Practice set 2A') or contains(., 'Reading 1')]/input/@value"
    )
    back = teacher.submit("//form[@action='/lti/picked']", item=boxes)
    assert f"/pairings/{pairing}/deploy?chosen=" in back.url
    chosen = back.url.rpartition("chosen=")[2].split(",")
    assert [before.get(each, "new") for each in chosen] == ["new", "Practice set 2A"]
    made = next(item for item in venn.items(pairing) if item["id"] == chosen[0])
    assert (made["title"], made["kind"], made["reason"]) == (
        "Reading 1: Where rivers begin",
        "practice",
        "picked at the publisher",
    )
    assert (
        "2 items placed"
        in venn.wait(venn.deploy(pairing, chosen, folder="Picked")[0]["job"])["message"]
    )
