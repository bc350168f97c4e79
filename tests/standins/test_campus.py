"""The campus checks what it is sent as strictly as a good platform would, and answers with the
standards' errors.
"""

from __future__ import annotations

import hashlib
import json
import time
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

import httpx
import pytest
from tests.conftest import Sides
from tests.service.platform import TestPlatform
from tools.world import at_campus
from tools.world.world import World

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.registration import Registration, write_registration
from vennpair.standards.lti.tokens import token_request
from vennpair.standins.foreign import write_foreign

GRADES = [v.SCOPE_LINE_ITEM, v.SCOPE_RESULT_READ, v.SCOPE_SCORE]


@dataclass
class Tool:
    """A tool of the tests' own, registered at the campus."""

    campus: str
    client_id: str
    keys: TestPlatform
    base: str

    def form(self, scopes: list[str], *, token_id: str = "", url: str = "") -> dict[str, str]:
        """Return a token request."""
        return token_request(
            self.client_id,
            url or f"{self.campus}/lti/token",
            scopes,
            self.keys.key,
            now=int(time.time()),
            token_id=token_id or uuid.uuid4().hex,
        )

    def token(self, *scopes: str) -> str:
        """Get a token."""
        return str(
            httpx.post(f"{self.campus}/lti/token", data=self.form(list(scopes))).json()[
                "access_token"
            ]
        )

    def call(
        self,
        method: str,
        path: str,
        scopes: list[str],
        document: Any = None,
        media: str = "application/json",
        **headers: str,
    ) -> httpx.Response:
        """Call a service of the shell with a fresh token."""
        sent = {"Authorization": f"Bearer {self.token(*scopes)}", "Content-Type": media} | {
            name.replace("_", "-"): value for name, value in headers.items()
        }
        return httpx.request(
            method,
            f"{self.base}/{path}",
            headers=sent,
            content=None if document is None else json.dumps(document),
        )


@pytest.fixture(scope="module")
def tool(world: World, new_sides: Callable[[str], Sides]) -> Iterator[Tool]:
    keys = TestPlatform(world, "Keys of the test tool")
    link = json.loads(world.manage("campus", "registration_token"))
    asked = Registration(
        "Test Tool",
        f"{keys.issuer}/login",
        (f"{keys.issuer}/launch",),
        f"{keys.issuer}/jwks",
        f"{keys.issuer}/launch",
        (
            v.SCOPE_LINE_ITEM,
            v.SCOPE_LINE_ITEM_READ,
            v.SCOPE_RESULT_READ,
            v.SCOPE_SCORE,
            v.SCOPE_MEMBERSHIP,
            v.SCOPE_OUTLINE,
            v.SCOPE_OUTLINE_READ,
        ),
    )
    card = httpx.post(
        f"{world.url('campus')}/lti/register",
        json=write_registration(asked),
        headers={"Authorization": f"Bearer {link['registration_token']}"},
    ).json()
    sides = new_sides("HYD 210-CAM")
    yield Tool(
        world.url("campus"),
        card["client_id"],
        keys,
        f"{world.url('campus')}/services/{sides.context_id}",
    )
    keys.close()


def test_tokens_need_a_good_assertion_used_once_and_an_offered_scope(tool: Tool) -> None:
    def error(form: dict[str, str]) -> str:
        answer = httpx.post(f"{tool.campus}/lti/token", data=form)
        assert answer.status_code == 400
        return str(answer.json()["error"])

    good = tool.form([v.SCOPE_SCORE])
    assert httpx.post(f"{tool.campus}/lti/token", data=good).json()["scope"] == v.SCOPE_SCORE
    assert error(good) == "invalid_client"
    assert error(tool.form(["nothing"])) == "invalid_scope"
    assert (
        error(tool.form([v.SCOPE_SCORE], url="https://elsewhere.example/token")) == "invalid_client"
    )
    assert error(good | {"grant_type": "password"}) == "unsupported_grant_type"
    assert error({"grant_type": "client_credentials"}) == "invalid_request"


def test_services_need_the_right_scope_in_the_right_course(tool: Tool) -> None:
    assert httpx.get(f"{tool.base}/lineitems").status_code == 401
    assert tool.call("GET", "lineitems", [v.SCOPE_SCORE]).status_code == 403
    assert tool.call("POST", "members", [v.SCOPE_MEMBERSHIP]).status_code == 405
    elsewhere = httpx.get(
        f"{tool.campus}/services/nowhere/lineitems",
        headers={"Authorization": f"Bearer {tool.token(*GRADES)}"},
    )
    assert elsewhere.status_code == 404


def _column(tool: Tool, **changes: Any) -> httpx.Response:
    return tool.call(
        "POST",
        "lineitems",
        GRADES,
        {"label": "Quiz", "scoreMaximum": 20} | changes,
        v.MEDIA_LINE_ITEM,
    )


def _score(tool: Tool, column: str, **changes: Any) -> httpx.Response:
    members = tool.call("GET", "members", [v.SCOPE_MEMBERSHIP]).json()["members"]
    learner = next(each["user_id"] for each in members if v.LEARNER in each["roles"])
    document = {
        "userId": learner,
        "timestamp": "2027-03-03T20:02:00Z",
        "activityProgress": "Completed",
        "gradingProgress": "FullyGraded",
        "scoreGiven": 5,
        "scoreMaximum": 10,
    }
    path = column.removeprefix(tool.base + "/") + "/scores"
    return tool.call("POST", path, GRADES, document | changes, changes.pop("media", v.MEDIA_SCORE))


def test_columns_are_made_found_changed_and_removed(tool: Tool) -> None:
    made = _column(tool, resourceId="r-1", endDateTime="2027-03-12T23:59:00-06:00")
    assert made.status_code == 201
    column = made.json()["id"]
    path = column.removeprefix(tool.base + "/")
    assert [
        each["id"] for each in tool.call("GET", "lineitems?resource_id=r-1", GRADES).json()
    ] == [column]
    assert (
        tool.call(
            "PUT", path, GRADES, {"label": "Renamed", "scoreMaximum": 30}, v.MEDIA_LINE_ITEM
        ).json()["label"]
        == "Renamed"
    )
    assert tool.call("DELETE", path, GRADES).status_code == 204
    assert tool.call("GET", path, GRADES).status_code == 404
    for wrong in (
        {"label": ""},
        {"scoreMaximum": 0},
        {"scoreMaximum": "NaN"},
        {"resourceLinkId": "unknown"},
    ):
        assert _column(tool, **wrong).status_code in {400, 404}
    assert (
        tool.call(
            "POST", "lineitems", GRADES, {"label": "x", "scoreMaximum": 1}, "text/plain"
        ).status_code
        == 400
    )


def test_scores_are_scaled_and_the_newest_stands(tool: Tool) -> None:
    column = _column(tool).json()["id"]
    results = f"{column.removeprefix(tool.base + '/')}/results"
    assert _score(tool, column).status_code == 204
    assert tool.call("GET", results, GRADES).json()[0]["resultScore"] == 10
    assert _score(tool, column, timestamp="2027-03-03T20:01:59Z", scoreGiven=9).status_code == 409
    assert (
        _score(tool, column, timestamp="2027-03-03T14:02:01-06:00", scoreGiven=6).status_code == 204
    )
    assert tool.call("GET", results, GRADES).json()[0]["resultScore"] == 12
    assert _score(tool, column, userId="nobody").status_code == 404
    for wrong in (
        {"timestamp": "2027-03-03T20:02:00"},
        {"scoreGiven": -1},
        {"gradingProgress": "Done"},
        {"scoreMaximum": None},
    ):
        assert _score(tool, column, **wrong).status_code == 400
    assert _score(tool, f"{column}x").status_code == 404


def test_long_lists_come_in_pages(tool: Tool) -> None:
    first = tool.call("GET", "members?limit=3", [v.SCOPE_MEMBERSHIP])
    assert len(first.json()["members"]) == 3
    assert 'rel="next"' in first.headers["Link"]
    assert tool.call("GET", "members?limit=x", [v.SCOPE_MEMBERSHIP]).status_code == 400


OUTLINE = [v.SCOPE_OUTLINE]


def test_the_outline_makes_nothing_twice(tool: Tool) -> None:
    key = uuid.uuid4().hex
    first, second = (
        tool.call("POST", "outline/folders", OUTLINE, {"title": "Once"}, Idempotency_Key=key)
        for _ in range(2)
    )
    assert first.status_code == second.status_code == 201
    assert first.json() == second.json()
    assert (
        tool.call(
            "POST", "outline/folders", OUTLINE, {"title": "Other"}, Idempotency_Key=key
        ).status_code
        == 422
    )
    assert tool.call("POST", "outline/folders", OUTLINE, {"title": "No key"}).status_code == 400
    nodes = tool.call("GET", "outline", [v.SCOPE_OUTLINE_READ]).json()["nodes"]
    assert [node["title"] for node in nodes].count("Once") == 1
    assert (
        tool.call(
            "POST", "outline/folders", [v.SCOPE_OUTLINE_READ], {"title": "x"}, Idempotency_Key="k"
        ).status_code
        == 403
    )


def test_entries_are_placed_moved_and_protected_from_stale_writers(tool: Tool) -> None:
    folder = tool.call(
        "POST", "outline/folders", OUTLINE, {"title": "Box"}, Idempotency_Key=uuid.uuid4().hex
    ).json()["id"]

    def make(name: str, **fields: Any) -> Any:
        return tool.call(
            "POST",
            "outline/entries",
            OUTLINE,
            {"kind": "lti_link", "title": name, "folder": folder} | fields,
            Idempotency_Key=uuid.uuid4().hex,
        )

    a, b = make("A").json(), make("B").json()
    make("first", position=0)
    inside = [
        node["title"]
        for node in tool.call("GET", "outline", OUTLINE).json()["nodes"]
        if node["folder"] == folder
    ]
    assert inside == ["first", "A", "B"]
    hidden = tool.call(
        "PATCH",
        f"outline/entries/{a['id']}",
        OUTLINE,
        {"visible": False},
        Idempotency_Key=uuid.uuid4().hex,
        If_Match=a["etag"],
    )
    assert (hidden.status_code, hidden.json()["visible"]) == (200, False)
    stale = tool.call(
        "PATCH",
        f"outline/entries/{a['id']}",
        OUTLINE,
        {"title": "late"},
        Idempotency_Key=uuid.uuid4().hex,
        If_Match=a["etag"],
    )
    assert stale.status_code == 412
    assert (
        tool.call(
            "PUT", "outline/order", OUTLINE, {"folder": folder, "children": [a["id"], b["id"]]}
        ).status_code
        == 400
    )
    ids = [
        node["id"]
        for node in tool.call("GET", "outline", OUTLINE).json()["nodes"]
        if node["folder"] == folder
    ]
    assert (
        tool.call(
            "PUT", "outline/order", OUTLINE, {"folder": folder, "children": ids[::-1]}
        ).status_code
        == 204
    )
    assert [
        node["id"]
        for node in tool.call("GET", "outline", OUTLINE).json()["nodes"]
        if node["folder"] == folder
    ] == ids[::-1]
    assert tool.call("DELETE", f"outline/folders/{folder}", OUTLINE).status_code == 204
    assert tool.call("DELETE", f"outline/entries/{b['id']}", OUTLINE).status_code == 404
    for wrong in ({"title": " "}, {"title": "x" * 256}, {"kind": "quiz"}, {"folder": "nowhere"}):
        assert make("x", **wrong).status_code == 400


def test_files_are_kept_once_under_their_digest(tool: Tool) -> None:
    data = b"depth,place\n2,pool\n"
    digest = hashlib.sha256(data).hexdigest()
    token = {"Authorization": f"Bearer {tool.token(v.SCOPE_OUTLINE)}"}
    address = f"{tool.base}/outline/files/{digest}"
    assert httpx.get(address, headers=token).status_code == 404
    wrong = httpx.put(f"{address}?name=d.csv", content=b"other bytes", headers=token)
    assert (wrong.status_code, "SHA-256" in wrong.json()["detail"]) == (400, True)
    made = httpx.put(
        f"{address}?name=d.csv", content=data, headers=token | {"Content-Type": "text/csv"}
    )
    assert made.status_code == 201
    assert (
        httpx.put(address, content=b"", headers=token).json()
        == httpx.get(address, headers=token).json()
        == made.json()
    )
    readonly = {"Authorization": f"Bearer {tool.token(v.SCOPE_OUTLINE_READ)}"}
    assert httpx.put(address, content=data, headers=readonly).status_code == 403
    assert (
        httpx.get(made.json()["url"]).status_code == 404
    )  # who is not in the course does not get it


def test_content_of_every_kind_is_made_changed_and_read_back(tool: Tool) -> None:
    for kind, fields in (
        ("page", {"html": "<p>one</p>"}),
        ("discussion", {"html": "<p>what do you think?</p>"}),
        ("assignment", {"html": "<p>two pages</p>", "points": "12.5"}),
        ("assessment", {"url": "https://files.example/q.imscc", "points": "6"}),
        ("web_link", {"url": "https://media.example/", "new_window": True}),
    ):
        made = tool.call(
            "POST",
            "outline/entries",
            [v.SCOPE_OUTLINE],
            {"kind": kind, "title": f"A {kind}", "identifier": f"pkg:{kind}", **fields},
            Idempotency_Key=f"kind-{kind}",
        ).json()
        assert (made["kind"], made["identifier"], made["used"], made["new_window"]) == (
            kind,
            f"pkg:{kind}",
            False,
            kind == "web_link",
        )
        changed = tool.call(
            "PATCH",
            f"outline/entries/{made['id']}",
            [v.SCOPE_OUTLINE],
            {"title": "Other", **fields},
            Idempotency_Key=f"change-{kind}",
            If_Match=made["etag"],
        ).json()
        assert changed["etag"] != made["etag"]
        listed = tool.call("GET", "outline", [v.SCOPE_OUTLINE_READ]).json()["nodes"]
        order = [node["id"] for node in listed if not node["folder"]]
        assert (
            tool.call(
                "PUT", "outline/order", [v.SCOPE_OUTLINE], {"folder": "", "children": order[::-1]}
            ).status_code
            == 204
        )
        after = next(
            node
            for node in tool.call("GET", "outline", [v.SCOPE_OUTLINE_READ]).json()["nodes"]
            if node["id"] == made["id"]
        )
        assert (
            after["etag"] == changed["etag"]
        )  # a place among others is no part of what the etag stands for
        assert (
            tool.call(
                "DELETE", f"outline/entries/{made['id']}", [v.SCOPE_OUTLINE], If_Match=made["etag"]
            ).status_code
            == 412
        )
        assert (
            tool.call(
                "DELETE", f"outline/entries/{made['id']}", [v.SCOPE_OUTLINE], If_Match=after["etag"]
            ).status_code
            == 204
        )
    bad = tool.call(
        "POST",
        "outline/entries",
        [v.SCOPE_OUTLINE],
        {"kind": "assignment", "title": "x", "points": "many"},
        Idempotency_Key="bad-points",
    )
    assert bad.status_code == 400


def test_the_campus_imports_a_cartridge_by_itself_and_names_what_it_left_out(tool: Tool) -> None:
    token = {"Authorization": f"Bearer {tool.token(v.SCOPE_OUTLINE)}"}
    begun = httpx.post(
        f"{tool.base}/outline/imports", files={"file": ("h.imscc", write_foreign())}, headers=token
    )
    assert begun.status_code == 202
    state = httpx.get(f"{tool.base}/outline/imports/{begun.json()['id']}", headers=token).json()
    assert state["state"] == "done"
    assert any("Simulator settings" in issue for issue in state["issues"])
    nodes = {
        node["title"]: node
        for node in tool.call("GET", "outline", [v.SCOPE_OUTLINE_READ]).json()["nodes"]
    }
    assert (
        nodes["On the first day"]["depth"],
        nodes["Key to the map quiz"]["audience"],
        nodes["Your report"]["kind"],
    ) == (1, "instructor", "assignment")
    broken = httpx.post(
        f"{tool.base}/outline/imports", files={"file": ("x.imscc", b"nothing")}, headers=token
    )
    assert (
        httpx.get(f"{tool.base}/outline/imports/{broken.json()['id']}", headers=token).json()[
            "state"
        ]
        == "failed"
    )
    assert httpx.post(f"{tool.base}/outline/imports", headers=token).status_code == 400


def test_a_launch_is_signed_only_for_the_registered_address_and_the_person_who_began_it(
    tool: Tool,
) -> None:
    params = {
        "scope": "openid",
        "response_type": "id_token",
        "response_mode": "form_post",
        "prompt": "none",
        "client_id": tool.client_id,
        "redirect_uri": "https://evil.example/",
        "login_hint": "x",
        "state": "s",
        "nonce": "n",
        "lti_message_hint": "forged",
    }
    for change in (
        {},
        {"redirect_uri": tool.keys.issuer},
        {"client_id": "unknown"},
        {"response_type": "code"},
    ):
        answer = httpx.get(f"{tool.campus}/lti/authorize", params=params | change)
        assert answer.status_code == 400
        assert 'name="id_token"' not in answer.text


def test_a_slow_import_is_queued_then_runs_then_is_completed(world: World, tool: Tool) -> None:
    key = at_campus.begin_import(world, tool.base.rsplit("/", 1)[-1], write_foreign(), 2.0)
    token = {"Authorization": f"Bearer {tool.token(v.SCOPE_OUTLINE)}"}
    seen: list[str] = []
    deadline = time.monotonic() + 30
    while "done" not in seen and time.monotonic() < deadline:
        state = httpx.get(f"{tool.base}/outline/imports/{key}", headers=token).json()["state"]
        if state not in seen:
            seen.append(state)
        time.sleep(0.05)
    assert seen == ["queued", "running", "done"]
