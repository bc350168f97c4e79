"""What happens by itself: comparisons at night, the morning's digest, and all pairings compared at
once; and sources that are files.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import httpx
import pytest
from tools.house.shop import CommandLine, hand_in
from tools.house.world import World

from tests.conftest import Sides
from vennpair.client import Refusal, VennPair
from vennpair.standins.tarnfield import section

LEARNER = section(2)[0]
ITEM = "Practice set 1A"
HEADER = "learner_id,learner_email,learner_name,item,score,points,at\n"
TEACHER = "nadia.ferrant@tarnfield.example"
PASSWORD = "rivers-and-groundwater"
# Only this pairing has a night here, as the world has dozens; and nothing of it stays.
NIGHT = """
import json
from datetime import datetime
from django.db import transaction
from vennpair.service.deploy.actions.look_for_drift import look_by_night
from vennpair.service.pair.models import Pairing
from vennpair.service.reconcile.actions.compare_many import ask_for_the_night
with transaction.atomic():
    Pairing.objects.filter(state='live').exclude(pk='{pairing}').update(state='paused')
    begun = [[ask_for_the_night(at), look_by_night(at)] for at in map(datetime.fromisoformat, {times})]
    transaction.set_rollback(True)
print('ROWS' + json.dumps(begun))
"""
MORNING = """
import json
from datetime import datetime
from vennpair.service.activity.models import Notice
from vennpair.service.connect.models import User
from vennpair.service.reconcile.actions.send_digests import send_digests
user = User.objects.get(username='{user}')
told = []
for at in {times}:
    Notice.objects.filter(user=user).delete()
    send_digests(datetime.fromisoformat(at))
    told.append([[each.sentence, each.body] for each in Notice.objects.filter(user=user)])
print('ROWS' + json.dumps(told))
"""
ALONE = """
from vennpair.service.connect.models import Institution, User
from vennpair.service.pair.models import Pairing, ShellRole
shell = Pairing.objects.get(pk='{pairing}').shell
user = User.objects.create_user('{user}', '{user}', '{password}', institution=shell.platform.institution)
ShellRole.objects.create(shell=shell, user=user, role='instructor')
"""


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
    world.manage(
        "vennpair",
        "shell",
        "-v",
        "0",
        "-c",
        ALONE.format(pairing=pairing, user=TEACHER, password=PASSWORD),
    )
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


def told(world: World, code: str) -> Any:
    return json.loads(
        world.manage("vennpair", "shell", "-v", "0", "-c", code).rpartition("ROWS")[2]
    )


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
    begun = told(world, NIGHT.format(pairing=ground[1], times=times))
    assert (
        begun == [[0, 0], [0, 0], [1, 1], [0, 0], [0, 0], [1, 1]]
        # compared, and looked at for drift, after three in the course's zone, in winter and in
        # summer
    )


STATE = (
    "from vennpair.service.ops.models import Job; print(Job.objects.filter(pk='{job}',"
    " state='{old}').update(state='{new}'))"
)


def test_one_that_reads_already_does_not_answer_who_asks_now(
    world: World, venn: VennPair, ground: tuple[Sides, str]
) -> None:
    world.end("worker")
    try:
        first, same = venn.compare(ground[1]), venn.compare(ground[1])
        assert first["id"] == same["id"]
        world.manage(
            "vennpair",
            "shell",
            "-v",
            "0",
            "-c",
            STATE.format(job=first["job"]["id"], old="queued", new="running"),
        )
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
    assert "1 score does not stand in the gradebook as it was earned: 1 unsent." in ready.out
    now = told(
        world,
        "import json; from django.utils import timezone; print('ROWS' +"
        " json.dumps(timezone.now().date().isoformat()))",
    )
    first, again = told(world, MORNING.format(user=TEACHER, times=[f"{now}T23:30:00+00:00"] * 2))
    assert [each[0] for each in first] == [f"{sides.label}: 1 new, 1 open."]
    assert "1 unsent" in first[0][1]
    assert f"{world.url('vennpair')}/pairings/{pairing}/reconcile" in first[0][1]
    assert again == []  # once a morning
    assert alone.json("digest", "never") == {"digest": "never"}


PURGED = """
import json
from datetime import timedelta
from django.utils import timezone
from vennpair.service.ops.actions.purge import purge
from vennpair.service.reconcile.models import Comparison
mine = Comparison.objects.done().filter(pairing='{pairing}')
keys = list(mine.values_list('pk', flat=True)[:2])
mine.update(at=timezone.now() - timedelta(days=300))
Comparison.objects.filter(pk=keys[0]).update(at=timezone.now() - timedelta(days=250))
purge()
print('ROWS' + json.dumps([[each.findings.count() > 0, each.matrix != dict(), each.summary['cells']] for each in (Comparison.objects.get(pk=key) for key in keys)]))
"""


def test_old_findings_are_purged_and_the_newest_and_the_counts_stay(
    world: World, venn: VennPair, ground: tuple[Sides, str]
) -> None:
    for _ in range(2):
        venn.wait(venn.compare(ground[1])["job"])
    newest, old = told(world, PURGED.format(pairing=ground[1]))
    assert newest == [True, True, 1]
    assert old == [False, False, 1]


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
    )  # the file says nothing of how the pairing stands
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
