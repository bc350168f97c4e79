"""What an operator does with a running service, by the command that they have."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import httpx
import psycopg
import pytest
from cryptography.fernet import Fernet
from tools.world import at_campus, at_service
from tools.world.actors import hand_in
from tools.world.differences import until_scores
from tools.world.hold import until
from tools.world.inside import inside
from tools.world.ports import free_port
from tools.world.world import PASSWORD, World

from tests.conftest import Sides
from vennpair.client import Refusal, VennPair
from vennpair.client.schema import Package
from vennpair.standins.tarnfield import section

ITEM = "Practice set 1A"
ONE = section(2)[0]
# Somebody who is in no other test's shell: all that is kept of them goes.
OTHER = "ada.rill@tarnfield.example"
Run = Callable[..., subprocess.CompletedProcess[str]]


@pytest.fixture(scope="module")
def run(world: World) -> Run:
    """``vennpair-server``, in the world's environment."""

    def go(*words: str, given: str = "", **changed: str) -> subprocess.CompletedProcess[str]:
        environment = os.environ | world._environment("vennpair") | changed
        return subprocess.run(
            [sys.executable, "-m", "vennpair.service.server", *words],
            env=environment,
            input=given,
            capture_output=True,
            text=True,
        )

    return go


@pytest.fixture(scope="module")
def live(venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]) -> tuple[Sides, str]:
    """A pairing with one item deployed and the relay on."""
    sides, pairing = new_pairing("HYD 210-OPERATED")
    items = [item["id"] for item in venn.items(pairing) if item["title"] == ITEM]
    venn.wait(venn.deploy(pairing, items, folder="Homework")[0]["job"])
    assert venn.change_pairing(pairing, relay_on=True)["state"] == "live"
    return sides, pairing


@pytest.fixture
def copy(world: World, tmp_path: Path) -> Iterator[str]:
    """The address of an empty database beside the service's."""
    name = f"copy_{os.getpid()}"
    with psycopg.connect(f"{world.cluster.url}/postgres", autocommit=True) as database:
        database.execute(f"DROP DATABASE IF EXISTS {name} WITH (FORCE)")
        database.execute(f"CREATE DATABASE {name} ENCODING 'UTF8' TEMPLATE template0")
        yield f"{world.cluster.url}/{name}"
        database.execute(f"DROP DATABASE {name} WITH (FORCE)")


def scores_there(world: World, sides: Sides) -> dict[tuple[str, str], str]:
    return at_campus.scores(world, sides.context_id)


def test_a_hold_keeps_every_call_back_and_loses_nothing(
    world: World, venn: VennPair, live: tuple[Sides, str], run: Run
) -> None:
    sides, pairing = live
    try:
        said = run("hold", "on", "--why", "the platform moves tonight")
        assert said.returncode == 0, said.stderr
        until(lambda: venn.me()["on_hold"] == "the platform moves tonight", venn.me)
        hand_in(world, ONE.email, sides.context_id, ITEM, 5)
        comparison = venn.compare(pairing)
        until(
            lambda: venn.comparison(pairing, comparison["id"])["job"]["state"] == "waiting",
            lambda: venn.comparison(pairing, comparison["id"])["job"],
        )
        job = venn.comparison(pairing, comparison["id"])["job"]
        assert "on hold: the platform moves tonight" in job["message"]
        with world.administrator() as administrator:
            platform = next(iter(administrator.platforms()))["id"]
            told = json.dumps(administrator.check_platform(platform))
        assert "on hold" in told
        assert scores_there(world, sides) == {}
        assert "On hold since" in run("hold").stdout
        parts = httpx.get(f"{world.url('vennpair')}/readyz").json()["parts"]
        assert "moves tonight" in next(each for each in parts if each["name"] == "hold")["words"]
    finally:
        assert "No hold" in run("hold", "off").stdout
    until(lambda: not venn.me()["on_hold"], venn.me)
    at_service.tick(world)
    until_scores(venn, pairing, accepted=1)
    assert len(scores_there(world, sides)) == 1


def test_a_backup_is_restored_elsewhere_and_calls_nobody_there(
    world: World, run: Run, copy: str, tmp_path: Path
) -> None:
    file = tmp_path / "vennpair.dump"
    made = run("backup", str(file))
    assert made.returncode == 0, made.stderr
    assert file.stat().st_mode & 0o077 == 0, "others could read it"
    counted = re.search(r"reported scores: \d+", made.stdout)
    assert counted
    again = run("backup", str(file))
    assert again.returncode == 1
    assert "is there already" in again.stderr
    full = run("restore", str(file))
    assert full.returncode == 1
    assert "is not empty" in full.stderr
    back = run("restore", str(file), VENNPAIR_DATABASE_URL=copy)
    assert back.returncode == 0, back.stderr
    assert counted[0] in back.stdout
    assert "it was restored from vennpair.dump" in run("hold", VENNPAIR_DATABASE_URL=copy).stdout
    assert "No hold" in run("hold").stdout, "the first one goes on"
    broken = tmp_path / "half.dump"
    broken.write_bytes(file.read_bytes()[:-2000])
    with psycopg.connect(copy, autocommit=True) as database:
        database.execute("DROP SCHEMA public CASCADE")
        database.execute("CREATE SCHEMA public")
    half = run("restore", str(broken), VENNPAIR_DATABASE_URL=copy)
    assert half.returncode == 1
    assert "could not do it" in half.stderr


def test_any_copy_of_the_database_is_held_until_it_is_let_go(
    world: World, run: Run, copy: str, tmp_path: Path
) -> None:
    run("hold", "off")
    made = str(tmp_path / "by-hand.dump")  # as somebody copies who does not know of our backup
    subprocess.run(["pg_dump", "-Fc", "-f", made, f"{world.cluster.url}/vennpair"], check=True)
    subprocess.run(["pg_restore", "--no-owner", "-d", copy, made], check=True)
    assert "this database is a copy" in run("hold", VENNPAIR_DATABASE_URL=copy).stdout
    assert "No hold" in run("hold", "off", VENNPAIR_DATABASE_URL=copy).stdout
    assert "No hold" in run("hold", VENNPAIR_DATABASE_URL=copy).stdout


def test_secrets_move_to_a_new_key_and_the_old_one_may_go(world: World, run: Run) -> None:
    old, new = world.state["box"], Fernet.generate_key().decode()
    closed = run("reencrypt", VENNPAIR_SECRETS_KEYS=new)
    assert closed.returncode == 1
    assert "could not be opened" in closed.stderr
    try:
        moved = run("reencrypt", VENNPAIR_SECRETS_KEYS=f"{new},{old}")
        assert moved.returncode == 0, moved.stderr
        assert "open what is stored" in run("check", VENNPAIR_SECRETS_KEYS=new).stdout
        assert "opens none" in run("check", VENNPAIR_SECRETS_KEYS=old).stdout
    finally:
        assert run("reencrypt", VENNPAIR_SECRETS_KEYS=f"{old},{new}").returncode == 0


def test_all_of_a_learner_is_handed_out_and_erased(
    world: World, venn: VennPair, live: tuple[Sides, str], run: Run, tmp_path: Path
) -> None:
    sides, pairing = live
    others = len(list(venn.scores(pairing, state="accepted")))
    at_campus.enrol(world, sides.context_id, OTHER, "Ada", "Rill")
    hand_in(world, OTHER, sides.context_id, ITEM, 3)
    until_scores(venn, pairing, accepted=others + 1)
    comparison = venn.compare(pairing)
    venn.wait(comparison["job"])
    file = tmp_path / "learner.json"
    assert run("learner", "export", OTHER, "--to", str(file)).returncode == 0
    told = json.loads(file.read_text())
    assert [each["given"] for each in told["reports"]] == ["6.000000"]
    assert {"cells", "passages", "findings", "activity"} <= set(told)
    name = told["learner"][0]["name"]
    assert run("learner", "erase", "nobody@nowhere.example").returncode == 1
    shown = run("learner", "erase", OTHER)
    assert "Nothing was changed" in shown.stdout
    before = scores_there(world, sides)
    gone = run("learner", "erase", OTHER, "--yes")
    assert gone.returncode == 0, gone.stderr
    assert rows_that_name(world, [name, OTHER]) == []
    assert scores_there(world, sides) == before, "the gradebook is not ours"
    assert len(list(venn.scores(pairing, state="accepted"))) == others
    at_service.tick(world, datetime.now(UTC) + timedelta(minutes=5))
    proved = run("check-audit")
    assert proved.returncode == 0, proved.stderr


@inside("vennpair")
def rows_that_name(words: list[str]) -> list[str]:
    """Return which tables still tell of somebody, in the pairings of a test."""
    from django.apps import apps
    from django.core.serializers.json import DjangoJSONEncoder

    from vennpair.service.pair.models import Pairing

    pairings = set(
        Pairing.objects.filter(shell__label="HYD 210-OPERATED").values_list("pk", flat=True)
    )
    found = []
    for model in apps.get_models():
        names = {each.name for each in model._meta.concrete_fields}
        way = next(
            (each for each in ("pairing", "comparison__pairing") if each.split("__")[0] in names),
            None,
        )
        rows: Any = model._default_manager.filter(**{f"{way}__in": pairings}) if way else []
        for row in rows:
            values = {
                each.name: each.value_from_object(row) for each in model._meta.concrete_fields
            }
            text = json.dumps(values, cls=DjangoJSONEncoder, default=str)
            found += [f"{model._meta.label}: {word}" for word in words if word in text]
    return found


@inside("vennpair")
def add_person(username: str, password: str) -> None:
    """Let somebody who is nobody else's be there."""
    from vennpair.service.connect.models import Institution, User

    college = Institution.objects.order_by("pk")[0]
    User.objects.create_user(username, username, password, institution=college)


def test_a_new_password_comes_from_standard_input(world: World, run: Run) -> None:
    name, password = "ada.carrow@tarnfield.example", "a river of eleven bends"
    add_person(world, name, PASSWORD)
    made = run("set-password", name, "--password-stdin", given=f"{password}\n")
    assert made.returncode == 0, made.stderr
    again = run("set-password", name, "--password-stdin", given=f"{password}\n")
    assert "has that password already" in again.stdout
    assert run("set-password", name, "--password-stdin", given="short\n").returncode == 1


def test_somebody_is_deactivated_everywhere_at_once(world: World, run: Run) -> None:
    name = "ivo.carrow@tarnfield.example"
    add_person(world, name, PASSWORD)
    with VennPair(world.url("vennpair")) as stranger:
        token = stranger.sign_in(name, PASSWORD)["token"]
        assert f"{name}\tteacher" in run("person", "list").stdout
        assert run("person", "deactivate", name).returncode == 0
        with VennPair(world.url("vennpair"), token) as ended, pytest.raises(Refusal):
            ended.me()
        with pytest.raises(Refusal):
            stranger.sign_in(name, PASSWORD)
        assert "may sign in again" in run("person", "activate", name).stdout
        assert stranger.sign_in(name, PASSWORD)["token"]
    assert run("person", "deactivate", "nobody").returncode == 1


def test_a_program_has_an_account_and_a_token_of_its_own(
    world: World, live: tuple[Sides, str], run: Run
) -> None:
    account = ("service-account", "nightly export", "--institution", "Tarnfield College")
    made = run(*account, "--scope", "compare", "--scope", "read")
    assert made.returncode == 0, made.stderr
    with VennPair(world.url("vennpair"), made.stdout.strip()) as program:
        assert program.me()["username"] == "service:nightly export"
        assert live[1] in {row["pairing"] for row in program.agreement()}
        with pytest.raises(Refusal) as refused:
            program.change_pairing(live[1], relay_on=False)
        assert refused.value.code == "scope_missing"
        again = run(*account)
        assert again.returncode == 0
        with pytest.raises(Refusal):
            program.me()
    assert run("service-account", "x", "--institution", "Nowhere").returncode == 1
    assert run("person", "deactivate", "service:nightly export").returncode == 0


def test_what_is_kept_no_longer_goes_and_the_trail_can_still_be_proved(
    world: World, venn: VennPair, run: Run
) -> None:
    # A college with less of a trail than is aged here: all of it goes.
    world.second_college()
    at_service.tick(world, datetime.now(UTC) + timedelta(minutes=5))  # all of it is sealed
    age_trail(world)
    counted = run("purge", "--dry-run", VENNPAIR_KEEP_ACTIVITY_DAYS="30")
    assert "Would delete" in counted.stdout, counted.stderr
    gone = run("purge", VENNPAIR_KEEP_ACTIVITY_DAYS="30")
    assert "events of the trail" in gone.stdout
    assert "activity 30 days" in gone.stdout
    at_service.tick(world, datetime.now(UTC) + timedelta(minutes=5))
    proved = run("check-audit")
    assert proved.returncode == 0, proved.stderr
    first = list(venn_audit(world, verb="trail.shortened"))
    assert first
    assert "was deleted" in first[0]["sentence"]


def venn_audit(world: World, **wanted: str) -> Any:
    with world.administrator() as administrator:
        return list(administrator.audit(**wanted))


@inside("vennpair")
def age_trail() -> None:
    """Let the first three events of each chain be of last year, sealed as such."""
    from vennpair.service.connect.models import Institution
    from vennpair.service.kernel.audit.models import Event
    from vennpair.service.kernel.audit.sealing import reseal

    for institution in Institution.objects.all():
        first = Event.objects.filter(institution=institution, number__isnull=False)
        rows = list(first.order_by("number")[:3])
        for row in rows:
            row.at -= timedelta(days=365)
        Event.objects.bulk_update(rows, ["at"])
        if rows:
            reseal(institution.pk, rows[0].number)


@contextmanager
def web(world: World, log: Path, **changed: str) -> Iterator[str]:
    """Run ``vennpair-server web`` on the world's database."""
    port = free_port()
    base = f"http://127.0.0.1:{port}"
    environment = os.environ | world._environment("vennpair") | {"VENNPAIR_URL": base} | changed
    environment.pop("VENNPAIR_ASKED_FILE", None)
    words = [sys.executable, "-m", "vennpair.service.server", "web", "--bind", f"127.0.0.1:{port}"]
    with log.open("wb") as target:
        process = subprocess.Popen(words, env=environment, stdout=target, stderr=target)
    try:
        until(lambda: answers(base), lambda: log.read_text()[-2000:])
        yield base
    finally:
        process.terminate()
        process.wait(60)


def answers(base: str) -> bool:
    try:
        return httpx.get(f"{base}/livez").status_code == 200
    except httpx.TransportError:
        return False


def test_counts_are_told_to_whom_the_operator_lets_ask_and_requests_are_found_again(
    world: World, tmp_path: Path
) -> None:
    assert httpx.get(f"{world.url('vennpair')}/metrics").status_code == 404
    log, token = tmp_path / "web.log", "a-token-of-a-monitor"
    settings = {
        "VENNPAIR_METRICS": token,
        "VENNPAIR_LOG_FORMAT": "json",
        "VENNPAIR_LOG_LEVEL": "INFO",
        "VENNPAIR_PROXIES": "1",
    }
    with web(world, log, **settings) as base:
        assert httpx.get(f"{base}/metrics").status_code == 404
        for _ in range(5):  # whichever of the two processes answers
            made = httpx.get(f"{base}/api/v1/me", headers={"X-Request-ID": "from-the-proxy-1"})
        assert made.headers["X-Request-ID"] == "from-the-proxy-1"
        assert made.json()["request"] == "from-the-proxy-1"
        odd = httpx.get(f"{base}/api/v1/me", headers={"X-Request-ID": "a b\tc" * 40})
        assert re.fullmatch("[0-9a-f]{32}", odd.headers["X-Request-ID"])
        told = httpx.get(f"{base}/metrics", headers={"Authorization": f"Bearer {token}"}).text
    samples = dict(
        line.rsplit(" ", 1) for line in told.splitlines() if line and not line.startswith("#")
    )
    asked = 'vennpair_http_requests_total{method="GET",route="api/v1/me",status="401"}'
    assert float(samples[asked]) == 6
    for name in ("vennpair_workers", "vennpair_on_hold", "vennpair_oldest_job_seconds"):
        assert name in samples
    assert float(samples["vennpair_database_up"]) == 1
    assert float(samples["vennpair_database_bytes"]) > 1_000_000
    lines = [json.loads(row) for row in log.read_text().splitlines() if row.startswith("{")]
    mine = [each for each in lines if each.get("request_id") == "from-the-proxy-1"]
    assert {(each["message"], each["status"]) for each in mine if "status" in each} == {
        ("GET api/v1/me 401", 401)
    }


@pytest.mark.parametrize("command", ["install", "learner"])
def test_help_needs_no_settings(command: str) -> None:
    bare = {name: value for name, value in os.environ.items() if not name.startswith("VENNPAIR_")}
    said = subprocess.run(
        [sys.executable, "-m", "vennpair.service.server", command, "--help"],
        env=bare,
        capture_output=True,
        text=True,
    )
    assert said.returncode == 0, said.stderr
    assert said.stdout.startswith(f"usage: vennpair-server {command}")
    assert "--settings" not in said.stdout


def test_cartridges_move_to_a_folder_and_back_and_nothing_is_left_of_what_is_gone(
    world: World, venn: VennPair, live: tuple[Sides, str], run: Run, tmp_path: Path
) -> None:
    _, pairing = live
    folder = tmp_path / "cartridges"
    place = {"VENNPAIR_CARTRIDGES": f"file://{folder}"}
    before = bytes_of_packages(world, pairing)
    assert before
    moved = run("move-cartridges", **place)
    assert moved.returncode == 0, moved.stderr
    assert re.match(r"\d+ pieces? (was|were) moved", moved.stdout)
    assert run("move-cartridges", **place).stdout.startswith("0 pieces were moved")
    assert any(folder.rglob("*"))
    back = run("move-cartridges", VENNPAIR_CARTRIDGES_BEFORE=place["VENNPAIR_CARTRIDGES"])
    assert back.stdout == moved.stdout
    assert bytes_of_packages(world, pairing) == before
    assert [each for each in folder.rglob("*") if each.is_file()] == []
    with web(world, tmp_path / "web.log", **place) as base:
        token = venn._http.headers["Authorization"].removeprefix("Bearer ")
        with VennPair(base, token) as here:
            path = f"/pairings/{pairing}/packages"
            begun = here._post(Package, path, {"filename": "x.imscc", "size": 5})
            octets = {"Content-Type": "application/octet-stream"}
            for data in (b"wrong", b"right"):
                part = f"{path}/{begun['id']}/parts/0"
                here._call(Package, "PUT", part, content=data, extra=octets)
            assert here._http.get(f"{path}/{begun['id']}/content").content == b"right"
    (kept,) = [each for each in folder.rglob("*") if each.is_file()]
    assert kept.read_bytes() == b"right"
    (silent := tmp_path / "silent").write_text("a newer place that does not answer")
    two = {
        "VENNPAIR_CARTRIDGES": f"file://{silent}",
        "VENNPAIR_CARTRIDGES_BEFORE": f"file://{folder}",
    }
    with web(world, tmp_path / "web.log", **two) as base, VennPair(base, token) as here:
        assert here._http.get(f"{path}/{begun['id']}/content").content == b"right"
    assert kept.stat().st_mode & 0o077 == 0
    forget_package(world, begun["id"])
    run("purge", **place)
    assert kept.exists(), "it may be of a package that is just being made"
    os.utime(kept, (0, 0))
    assert "1 files of them" in run("purge", **place).stdout
    assert not kept.exists()


@inside("vennpair")
def bytes_of_packages(pairing: str) -> dict[str, str]:
    """Return the checksum of each package's bytes as they are read now."""
    import hashlib

    from vennpair.service.content import models
    from vennpair.service.content.storage import pieces_of

    return {
        str(each.pk): hashlib.sha256(b"".join(pieces_of(each))).hexdigest()
        for each in models.Package.objects.filter(pairing=pairing)
    }


@inside("vennpair")
def forget_package(package: str) -> None:
    """Let a package be gone from the database."""
    from vennpair.service.content.models import Package

    Package.objects.filter(pk=package).delete()


def test_one_institution_s_bad_data_keeps_nobody_else_from_anything(
    world: World, live: tuple[Sides, str]
) -> None:
    broken = add_broken_college(world)
    try:
        told = a_night(world, live[1], datetime(2027, 6, 1, 8, 30, tzinfo=UTC))
    finally:
        remove_college(world, broken)
    assert told == {"compared": True, "looked at": True, "digested": "2027-06-01"}


@inside("vennpair")
def add_broken_college() -> str:
    """Lay an institution whose zone there is not, with somebody and a live pairing."""
    from vennpair.service.connect.models import Institution, Platform, Publisher, User
    from vennpair.service.pair.models import HomeworkCourse, Pairing, Shell

    college = Institution.objects.create(name="Brackwater College", timezone="Nowhere/At_all")
    User.objects.create(username="pia@brackwater.example", institution=college)
    platform = Platform.objects.create(
        institution=college, name="Brackwater", issuer="http://127.0.0.1:1", client_id="x"
    )
    publisher = Publisher.objects.create(institution=college, name="Brackwater Press")
    shell = Shell.objects.create(
        platform=platform, context_id="x", title="Broken", lineitems_url="http://127.0.0.1:1/x"
    )
    course = HomeworkCourse.objects.create(publisher=publisher, sourced_id="x", title="Broken")
    Pairing.objects.create(shell=shell, course=course, state="live", relay_on=True)
    return str(college.pk)


@inside("vennpair")
def remove_college(college: str) -> None:
    """Take it out again."""
    from vennpair.service.connect.models import Institution

    Institution.objects.get(pk=college).delete()


@inside("vennpair")
def a_night(pairing: str, at: datetime) -> dict[str, Any]:
    """Do what is due at half past three in Chicago, and in the morning after it; return what came
    of it for a pairing of a good institution, and take all of it back.
    """
    from django.db import transaction

    from vennpair.service.connect.models import User
    from vennpair.service.deploy.actions.look_for_drift import look_by_night
    from vennpair.service.deploy.actions.send_totals import keep_up
    from vennpair.service.deploy.models import Watch
    from vennpair.service.reconcile.actions.compare_many import ask_for_the_night
    from vennpair.service.reconcile.actions.send_digests import send_digests
    from vennpair.service.reconcile.models import Schedule
    from vennpair.service.relay.actions.raise_alarms import raise_alarms

    with transaction.atomic():
        for due in (look_by_night, ask_for_the_night, keep_up, raise_alarms):
            due(at)
        send_digests(at.replace(hour=14))
        night = at.date()
        told = {
            "compared": Schedule.objects.filter(pairing=pairing, night=night).exists(),
            # A few of a platform at a time; which come first is not said.
            "looked at": Watch.objects.filter(night=night).exists(),
            "digested": str(User.objects.get(username="maren.holt@tarnfield.example").digested_on),
        }
        transaction.set_rollback(True)
    return told
