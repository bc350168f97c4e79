"""The API's manners: problems with remedies, idempotency, paging, clear refusals."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from pathlib import Path

import httpx
import pytest
from tools.world.hold import until_job
from tools.world.world import World

from tests.conftest import Sides
from tests.standards.packages import package
from vennpair.client import NotAllowed, Refusal, Unreachable, VennPair


@pytest.fixture(scope="module")
def paired(new_pairing: Callable[[str], tuple[Sides, str]]) -> tuple[Sides, str]:
    return new_pairing("HYD 210-API")


@pytest.fixture(scope="module")
def pairing(paired: tuple[Sides, str]) -> str:
    return paired[1]


def assert_problem(error: Refusal, status: int, code: str) -> None:
    assert (error.status, error.code) == (status, code)
    assert error.message
    assert error.remedy


def test_a_wrong_password_and_an_unknown_token(world: World) -> None:
    with VennPair(world.url("vennpair")) as client, pytest.raises(NotAllowed) as caught:
        client.sign_in("maren.holt@tarnfield.example", "wrong")
    assert_problem(caught.value, 401, "wrong_password")
    with VennPair(world.url("vennpair"), "nonsense") as client, pytest.raises(NotAllowed) as caught:
        client.me()
    assert_problem(caught.value, 401, "not_signed_in")


def test_nothing_listens_is_told_from_a_refusal() -> None:
    with VennPair("http://127.0.0.1:9") as client, pytest.raises(Unreachable):
        client.me()


def test_a_shell_or_course_is_paired_once(
    venn: VennPair, paired: tuple[Sides, str], new_sides: Callable[[str], Sides]
) -> None:
    sides, _ = paired
    shell = next(each for each in venn.shells() if each["label"] == sides.label)
    course = next(each for each in venn.courses(sides.label) if each["code"] == sides.label)
    assert course["paired"]
    other = new_sides("HYD 210-API2")
    free_shell = next(each for each in venn.shells() if each["label"] == other.label)
    free_course = next(
        each for each in venn.courses(other.label, refresh=True) if each["code"] == other.label
    )
    for shell_id, course_id, code in (
        (shell["id"], free_course["id"], "shell_paired"),
        (free_shell["id"], course["id"], "course_paired"),
    ):
        with pytest.raises(Refusal) as caught:
            venn.pair(shell_id, course_id, agree=True)
        assert_problem(caught.value, 409, code)


def test_the_same_request_again_gets_the_same_answer_and_is_done_once(
    world: World, venn: VennPair, pairing: str
) -> None:
    url, headers = (
        f"{world.url('vennpair')}/api/v1/pairings/{pairing}/imports",
        dict(venn._http.headers) | {"Idempotency-Key": uuid.uuid4().hex},
    )
    first, second = (
        httpx.post(url, json={"source": "publisher"}, headers=headers) for _ in range(2)
    )
    assert first.status_code == second.status_code == 202
    assert first.json() == second.json()
    assert second.headers["Idempotent-Replay"] == "true"
    other = httpx.post(url, json={"source": "upload"}, headers=headers)
    assert (other.status_code, other.json()["code"]) == (422, "key_reused")
    venn.wait(first.json()["job"])


def test_bad_requests_name_their_fields(world: World, venn: VennPair, pairing: str) -> None:
    url, headers = (
        f"{world.url('vennpair')}/api/v1/pairings/{pairing}/rollouts",
        dict(venn._http.headers),
    )
    answer = httpx.post(url, json={"items": ["x"], "undated": "maybe"}, headers=headers).json()
    assert answer["code"] == "invalid"
    assert set(answer["fields"]) == {"items", "undated"}
    assert (
        httpx.post(
            url, content=b"{not json", headers=headers | {"Content-Type": "application/json"}
        ).json()["code"]
        == "bad_request"
    )
    with pytest.raises(Refusal) as caught:
        venn.plan(pairing, [str(uuid.uuid4())])
    assert_problem(caught.value, 422, "unknown_item")


COURSE_LINKS = 2  # the course's home and its registration, which no cartridge holds


def test_importing_again_updates_and_never_doubles(venn: VennPair, pairing: str) -> None:
    before = [item["id"] for item in venn.items(pairing)]
    made = venn.start_import(pairing)
    venn.wait(made["job"])
    report = venn.import_of(pairing, made["id"])["report"]
    assert report == {
        "new": 0,
        "changed": 0,
        "same": len(before) - COURSE_LINKS,
        "gone": 0,
        "entries": 71,
        "blocked": 0,
        "loose": 0,
    }
    assert [item["id"] for item in venn.items(pairing)] == before


def test_a_file_that_is_no_cartridge_is_refused_and_nothing_of_it_is_stored(
    venn: VennPair, pairing: str, tmp_path: Path
) -> None:
    before = [item["id"] for item in venn.items(pairing)]
    for name, data, code in (
        ("a.imscc", b"not a zip", "not_a_zip"),
        ("b.zip", package({"a.html": "x"}), "no_manifest"),
        ("c.imscc", package(**{"../x": "y"}), "unsafe_path"),
        ("d.imscc", b"", "not_a_zip"),
    ):
        file = tmp_path / name
        file.write_bytes(data)
        made = venn.start_import(pairing, venn.send_package(pairing, file)["id"])
        with pytest.raises(Refusal) as caught:
            venn.wait(made["job"])
        assert_problem(caught.value, 422, "job_failed")
        refused = venn.import_of(pairing, made["id"])
        assert ([each["code"] for each in refused["findings"]], refused["kept"]) == ([code], False)
    assert [item["id"] for item in venn.items(pairing)] == before


def test_items_are_paged_by_key_and_filtered(world: World, venn: VennPair, pairing: str) -> None:
    whole = [item["id"] for item in venn.items(pairing)]
    small = [item["id"] for item in venn.items(pairing, limit="7")]
    assert small == whole
    assert len(whole) > 50
    graded = list(venn.items(pairing, kind="graded"))
    assert {item["kind"] for item in graded} == {"graded"}
    assert [item["shown_title"] for item in venn.items(pairing, q="field sketch")] == [
        "Field sketch (Unit 2: Flow and channels)",
        "Field sketch (Unit 5: Groundwater and aquifers)",
    ]


def test_readiness_names_what_the_demo_s_course_lacks(venn: VennPair, pairing: str) -> None:
    checks = {check["code"]: check for check in venn.readiness(pairing)}
    assert checks["undated"]["state"] == checks["same_title"]["state"] == "warn"
    assert "Essay outline" in checks["undated"]["message"]
    assert {checks[code]["state"] for code in ("roster", "columns", "outline", "publisher")} == {
        "ok"
    }


def test_a_stopped_publisher_is_said_plainly_and_nothing_is_lost(
    world: World, venn: VennPair, pairing: str
) -> None:
    world.end("press")
    try:
        checks = {check["code"]: check for check in venn.readiness(pairing)}
        assert checks["publisher"]["state"] == "fail"
        (unread,) = venn.read_courses_again()
        assert unread["publisher"] == "Kestrelbrook Press"
        assert "nothing listens there" in unread["message"]
        assert venn.courses("HYD 210-02"), "what was read before is still found"
        job = venn.start_import(pairing)["job"]
        now = until_job(venn, job["id"], "waiting")
        assert "nothing listens there" in now["message"]
        assert "tried again" in now["remedy"]
    finally:
        world.start_site("press")
    assert venn.wait(job, seconds=60)["state"] == "done"


def test_a_pairing_is_ended_and_what_comes_after_is_refused(venn: VennPair, pairing: str) -> None:
    with pytest.raises(Refusal) as caught:
        venn.change_pairing(pairing, state="live") and venn.change_pairing(pairing, state="ready")
    assert caught.value.status in {400, 409}
    assert venn.change_pairing(pairing, state="ended")["state"] == "ended"
    with pytest.raises(Refusal) as caught:
        venn.change_pairing(pairing, state="live")
    assert_problem(caught.value, 409, "wrong_state")
