"""The press speaks OneRoster 1.2 with its errors, pages and cartridge."""

from __future__ import annotations

import io
from collections.abc import Iterator

import httpx
import pytest
from tools.world import at_press
from tools.world.world import World

from vennpair.standards.cartridge import read_cartridge
from vennpair.standards.oneroster import objects as o

COURSE = "rg3-hyd210-02"
PATHS = {"rostering": o.SCOPE_ROSTER, "gradebook": o.SCOPE_GRADEBOOK, "resources": o.SCOPE_RESOURCE}


@pytest.fixture(scope="module")
def press(world: World) -> Iterator[httpx.Client]:
    """A client with the credentials that the service has."""
    with httpx.Client(base_url=world.url("press"), auth=at_press.api_client(world)) as client:
        yield client


def read(press: httpx.Client, path: str, scope: str) -> httpx.Response:
    token = press.post(
        "/oauth/token", data={"grant_type": "client_credentials", "scope": scope}
    ).json()["access_token"]
    return httpx.get(f"{press.base_url}{path}", headers={"Authorization": f"Bearer {token}"})


def test_tokens_are_given_for_the_right_secret_and_scope_only(press: httpx.Client) -> None:
    form = {"grant_type": "client_credentials", "scope": o.SCOPE_ROSTER}
    assert press.post("/oauth/token", data=form).json()["scope"] == o.SCOPE_ROSTER
    assert press.post("/oauth/token", data=form | {"scope": "all"}).json() == {
        "error": "invalid_scope"
    }
    assert press.post("/oauth/token", data=form | {"grant_type": "password"}).json() == {
        "error": "unsupported_grant_type"
    }
    assert (
        httpx.post(f"{press.base_url}/oauth/token", data=form, auth=("x", "y")).status_code == 401
    )


def test_refusals_are_the_standard_s_status_payload(press: httpx.Client) -> None:
    path = "/ims/oneroster/rostering/v1p2/classes"
    for answer, status, code in (
        (httpx.get(f"{press.base_url}{path}"), 401, "unauthorisedrequest"),
        (read(press, path, o.SCOPE_GRADEBOOK), 403, "forbidden"),
        (read(press, f"{path}/none/students", o.SCOPE_ROSTER), 404, "unknownobject"),
        (read(press, f"{path}?limit=x", o.SCOPE_ROSTER), 400, "invaliddata"),
    ):
        assert answer.status_code == status
        assert (
            answer.json()["imsx_CodeMinor"]["imsx_codeMinorField"][0]["imsx_codeMinorFieldValue"]
            == code
        )


def test_a_class_is_read_in_pages_with_learners_items_and_categories(press: httpx.Client) -> None:
    students = read(
        press, f"/ims/oneroster/rostering/v1p2/classes/{COURSE}/students?limit=8", o.SCOPE_ROSTER
    )
    assert (len(students.json()["users"]), students.headers["X-Total-Count"]) == (8, "20")
    assert 'rel="next"' in students.headers["Link"]
    line_items = [
        o.read_line_item(each)
        for each in read(
            press, f"/ims/oneroster/gradebook/v1p2/classes/{COURSE}/lineItems", o.SCOPE_GRADEBOOK
        ).json()["lineItems"]
    ]
    assert len(line_items) == 32
    assert [item.title for item in line_items if not item.due_at] == [
        "Essay outline: a well in dry years"
    ]
    assert {item.due_at[-6:] for item in line_items if item.due_at} == {
        "-06:00",
        "-05:00",
    }  # before and after the clocks change
    categories = {
        o.read_category(each).sourced_id
        for each in read(
            press, f"/ims/oneroster/gradebook/v1p2/classes/{COURSE}/categories", o.SCOPE_GRADEBOOK
        ).json()["categories"]
    }
    assert {item.category for item in line_items} == categories


def test_the_cartridge_holds_the_whole_course_and_only_the_allowed_may_have_it(
    press: httpx.Client,
) -> None:
    resources = read(
        press, f"/ims/oneroster/resources/v1p2/classes/{COURSE}/resources", o.SCOPE_RESOURCE
    ).json()["resources"]
    resource = o.read_resource(resources[0])
    assert httpx.get(resource.vendor_resource_id).status_code == 401
    path = resource.vendor_resource_id.removeprefix(str(press.base_url).rstrip("/"))
    cartridge = read_cartridge(
        io.BytesIO(read(press, path, o.SCOPE_RESOURCE).content),
        known_hosts=frozenset({"127.0.0.1"}),
    )
    assert cartridge.version == "1.3"
    assert {finding.code for finding in cartridge.findings} == {"insecure_launch"}
    assert (
        cartridge.counts() | {"folder": 10, "page": 18, "web_link": 9, "lti_link": 34}
        == cartridge.counts()
    )
    assert {row.title for row in cartridge.outline if row.audience == "instructor"} == {
        f"Teaching notes {number}" for number in range(1, 10)
    }


def test_an_unknown_platform_cannot_launch(press: httpx.Client) -> None:
    answer = httpx.get(
        f"{press.base_url}/lti/login",
        params={
            "iss": "https://nobody.example",
            "login_hint": "x",
            "target_link_uri": "https://x.example",
        },
    )
    assert answer.status_code == 400
    assert (
        httpx.post(f"{press.base_url}/lti/launch", data={"state": "x", "id_token": "y"}).status_code
        == 400
    )
