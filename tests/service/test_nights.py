"""What happens automatically: comparisons at night, the morning's digest, and all pairings compared
at once; and sources that are files.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import httpx
import pytest
from tools.world import at_service
from tools.world.actors import CommandLine, hand_in
from tools.world.world import World

from tests.conftest import Sides
from vennpair.client import Refusal, VennPair
from vennpair.standins.tarnfield import section

LEARNER = section(2)[0]
ITEM = "Practice set 1A"
HEADER = "learner_id,learner_email,learner_name,item,score,points,at\n"
TEACHER = "nadia.ferrant@tarnfield.example"
PASSWORD = "rivers-and-groundwater"


@pytest.fixture(scope="module")
def ground(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> tuple[Sides, str]:
    """A pairing with one score that never reached the gradebook, and a teacher who has no other."""
    sides, pairing = new_pairing("HYD 210-NIGHT")
    venn.wait(
        venn.deploy(pairing, [item["id"] for item in venn.items(pairing) if item["title"] == ITEM])[
            0
        ]["job"]
    )
    hand_in(world, LEARNER.email, sides.context_id, ITEM, 4)
    at_service.add_teacher(world, pairing, TEACHER, PASSWORD)
    return sides, pairing


@pytest.fixture(scope="module")
def alone(world: World, ground: tuple[Sides, str]) -> CommandLine:
    line = CommandLine(world, "nadia.json")
    signed = line(
        "sign-in",
        "--service",
        world.url("vennpair"),
        "--user",
        TEACHER,
        "--password-stdin",
        given=f"{PASSWORD}\n",
    )
    assert signed.status == 0, signed.err
    return line


def test_a_night_begins_by_the_course_s_clock_and_once(
    world: World, ground: tuple[Sides, str]
) -> None:
    times = [
        "2027-02-01T18:00:00+00:00",
        "2027-02-02T08:59:00+00:00",
        "2027-02-02T09:01:00+00:00",
        "2027-02-02T09:20:00+00:00",
        "2027-02-02T13:00:00+00:00",
        "2027-07-02T08:01:00+00:00",
    ]
    begun = at_service.nights_begun(world, ground[1], times)
    # Compared, and looked at for drift, after three in the course's zone, in winter and in summer.
    assert begun == [(0, 0), (0, 0), (1, 1), (0, 0), (0, 0), (1, 1)]


def test_one_that_reads_already_does_not_answer_who_asks_now(
    world: World, venn: VennPair, ground: tuple[Sides, str]
) -> None:
    world.end("worker")
    try:
        first, same = venn.compare(ground[1]), venn.compare(ground[1])
        assert first["id"] == same["id"]
        assert first["job"] is not None
        assert at_service.change_job(world, first["job"]["id"], "queued", "running") == 1
        second = venn.compare(ground[1])
        assert second["id"] not in {first["id"], ""}
    finally:
        world.start_worker()
    for each in (first, second):
        assert venn.wait(each["job"])["state"] == "done"


def test_all_pairings_are_compared_and_the_morning_tells_what_is_new(
    world: World, ground: tuple[Sides, str], alone: CommandLine
) -> None:
    sides, pairing = ground
    ran = alone("reconcile", "--all", "--format", "json", "--fail-on-differences")
    assert ran.status == 1, ran.err
    (row,) = ran.json["pairings"]
    assert (
        row["shell"],
        row["standing"],
        row["cells"],
        row["agree"],
        row["open"]["unsent"],
        row["teachers"][-1],
    ) == (sides.label, "compared", 1, 0, 1, TEACHER)
    assert (
        alone.json("schedule", sides.label, "--grades-due", "2027-05-12", "--dry-run")["grades_due"]
        == "2027-05-12"
    )
    assert alone.json("ready", sides.label)["schedule"] == {"nightly": True, "grades_due": None}
    alone.json("schedule", sides.label, "--grades-due", "2027-05-12")
    ready = alone("ready", sides.label)
    assert ready.status == 1
    assert "1 score in the gradebook differs from what was earned: 1 score never sent." in ready.out
    evening = f"{datetime.now(UTC).date()}T23:30:00+00:00"
    first, again = at_service.mornings(world, TEACHER, [evening] * 2)
    assert [each[0] for each in first] == [f"{sides.label}: 1 finding open, 1 new."]
    assert "1 score never sent" in first[0][1]
    assert f"{world.url('vennpair')}/pairings/{pairing}/reconcile" in first[0][1]
    assert again == []  # once a morning
    assert alone.json("digest", "never") == {"digest": "never"}


def test_old_findings_are_purged_and_the_newest_and_the_counts_stay(
    world: World, venn: VennPair, ground: tuple[Sides, str]
) -> None:
    for _ in range(2):
        venn.wait(venn.compare(ground[1])["job"])
    newest, old = at_service.age_comparisons(world, ground[1])
    assert newest == (True, True, 1)
    assert old == (False, False, 1)


def test_a_gradebook_from_a_file_is_compared_and_changes_nothing(
    venn: VennPair, ground: tuple[Sides, str], alone: CommandLine, tmp_path: Path
) -> None:
    sides, pairing = ground
    export = tmp_path / "export.csv"
    export.write_text(
        f"{HEADER},{LEARNER.email.upper()},,{ITEM.upper()},8,10,\n,{LEARNER.email},,Field"
        " trip,3,5,\n"
    )
    found = alone.json("reconcile", sides.label, "--gradebook", str(export))
    assert found["summary"]["kinds"] == {"agree": 1}
    assert {each["kind"] for each in found["findings"]} == {"title_differs", "column_extra"}
    with pytest.raises(Refusal, match="not written to the gradebook"):
        venn.settle(pairing, found["id"], kinds={"title_differs": "put_back"})
    assert (
        next(row for row in venn.agreement() if row["pairing"] == pairing)["open"]["unsent"] == 1
    )  # the file says nothing of how the pairing is doing
    export.write_text(HEADER + f",{LEARNER.email},,{ITEM},absent,10,\n")
    refused = alone("reconcile", sides.label, "--gradebook", str(export))
    assert (refused.status, "line 2" in refused.err.lower()) == (6, True)


def test_two_files_at_the_service_are_compared_written_back_and_forgotten(
    world: World, venn: VennPair, tmp_path: Path
) -> None:
    publisher, gradebook = tmp_path / "p.csv", tmp_path / "g.csv"
    publisher.write_text(f"{HEADER}1,,Ada,Quiz,8,10,\n2,,Ben,Quiz,9,10,\n")
    gradebook.write_text(f"{HEADER}1,,Ada,Quiz,8,10,\n2,,Ben,Quiz,,10,\n")
    found = venn.compare_files(publisher, gradebook)
    assert (found["summary"]["agree"], found["summary"]["unsent"], found["matrix"]["rows"]) == (
        1,
        1,
        [["agree"], ["unsent"]],
    )

    def post(path: str, **fields: Any) -> httpx.Response:
        files = {
            "publisher": ("p.csv", publisher.read_bytes()),
            "gradebook": ("g.csv", gradebook.read_bytes()),
            "file": ("w.csv", b"Number;Mail;Quiz\n1;a@b.example;7,5\n"),
        }
        token = venn._http.headers["Authorization"]
        return httpx.post(
            f"{world.url('vennpair')}/api/v1/{path}",
            data=fields,
            files=files,
            headers={"Authorization": token, "Idempotency-Key": f"{path}{fields}"},
            timeout=30,
        )

    assert (
        post("file-comparisons", form="gradebook").text
        == f"{HEADER}1,,Ada,Quiz,8,10,\n2,,Ben,Quiz,9,10,\n"
    )
    page = post("file-comparisons", form="html")
    assert page.headers["content-security-policy"].startswith("default-src 'none'")
    assert "1 of 2 scores do not agree." in page.text
    assert 'separator = ";"' in post("file-comparisons/layout").json()["layout"]
    gradebook.write_text(f"{HEADER}1,,Ada,Quiz,8;5,10,\n")
    bad = post("file-comparisons")
    assert (bad.status_code, bad.json()["code"], bad.json()["file"], bad.json()["line"]) == (
        422,
        "bad_score",
        "g.csv",
        2,
    )
