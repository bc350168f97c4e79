"""The house guards itself: migrations, schema, exported names, processes that are ours alone."""

from __future__ import annotations

import ast
import os
import random
import re
import signal
import subprocess
import sys
from pathlib import Path

from tools import schema
from tools.world import processes
from tools.world.cluster import ROOT
from tools.world.ports import free_port
from tools.world.world import World

import vennpair.client

# The newest migration of each app when versions began to run beside the one before them.
BEGINNING = {
    "connect": 9,
    "content": 14,
    "deploy": 16,
    "kernel/audit": 5,
    "kernel/jobs": 4,
    "kernel/web": 3,
    "lti": 2,
    "pair": 7,
    "reconcile": 9,
    "relay": 6,
    "set_up": 3,
}
STOPS = {"RemoveField", "RenameField", "RenameModel", "DeleteModel", "AlterModelTable"}


def test_no_migration_is_missing(world: World) -> None:
    for site in ("vennpair", "campus", "press"):
        said = world.manage(site, "makemigrations", "--check", "--dry-run", "-v", "1")
        assert "No changes detected" in said


def test_the_version_before_can_run_on_the_schema_of_this_one() -> None:
    """It knows no new column, so the database itself must fill one; it still uses an old one, so
    taking that away is a later version's work.
    """
    for file in sorted((ROOT / "src/vennpair/service").rglob("migrations/0*.py")):
        app = str(file.parents[1].relative_to(ROOT / "src/vennpair/service"))
        if int(file.name[:4]) <= BEGINNING.get(app, 0):
            continue
        for call in (each for each in ast.walk(ast.parse(file.read_text())) if is_call(each)):
            name = getattr(call.func, "attr", "")
            assert name not in STOPS, f"{file.name}: {name} breaks the version before"
            if name == "AddField":
                field = next(each.value for each in call.keywords if each.arg == "field")
                facts = {each.arg: ast.unparse(each.value) for each in field.keywords}
                filled = "db_default" in facts or facts.get("null") == "True"
                many = getattr(field.func, "attr", "") == "ManyToManyField"
                assert filled or many, f"{file.name}: a column that only this version fills"


def is_call(node: ast.AST) -> bool:
    return isinstance(node, ast.Call)


def test_the_service_starts_with_no_warning_of_django_s_own_checks() -> None:
    environment = os.environ | schema.ENVIRONMENT
    subprocess.run(
        [
            sys.executable,
            "-W",
            "error::DeprecationWarning:vennpair",
            "-m",
            "vennpair.service.manage",
            "check",
            "--fail-level",
            "WARNING",
        ],
        check=True,
        env=environment,
        cwd=ROOT,
    )


def test_the_client_exports_what_its_readme_promises() -> None:
    assert sorted(vennpair.client.__all__) == [
        "NotAllowed",
        "Refusal",
        "ServiceError",
        "Unreachable",
        "VennPair",
    ]
    assert all(hasattr(vennpair.client, name) for name in vennpair.client.__all__)


def test_a_process_of_somebody_else_under_a_known_number_is_never_ended(tmp_path: Path) -> None:
    mark = processes.begin(
        [sys.executable, "-c", "import time; time.sleep(60)"], {}, tmp_path / "log"
    )
    assert processes.alive(mark)
    other = mark | {"started": mark["started"] + 1}
    processes.end(other)
    assert processes.alive(mark)
    processes.end(mark, signal.SIGKILL)
    assert not processes.alive(mark)


def test_a_port_that_is_taken_is_no_error(world: World) -> None:
    taken = world.state["ports"]["campus"]
    assert free_port(taken) != taken


def test_two_that_begin_at_once_get_ports_of_their_own() -> None:
    ports = []
    for _ in range(20):
        random.seed(1)  # as in each of the processes that run tests
        ports.append(free_port())
    assert len(set(ports)) == len(ports)


def test_secrets_and_tokens_are_in_no_log(world: World, cli: object) -> None:
    token = world.home / "session.json"
    secrets = [
        world.state["box"],
        world.state["secrets"]["vennpair"],
        "rivers-and-groundwater",
        token.read_text().split('"token": "')[1][:20],
    ]
    logs = "".join(path.read_text(errors="replace") for path in world.home.glob("*.log"))
    assert not [secret for secret in secrets if secret in logs]


FOLDERS = [
    folder
    for top in (ROOT / "src" / "vennpair", ROOT / "console" / "src")
    for folder in (top, *(path for path in top.rglob("*") if path.is_dir()))
    if any(folder.glob("*.py")) or any(folder.glob("*.ts")) or any(folder.glob("*.vue"))
]
BESIDE = {"migrations", "management", "commands", "scripts"}  # the framework's own, or one script


def test_every_folder_says_what_lives_there_and_names_what_exists() -> None:
    for folder in FOLDERS:
        if folder.name in BESIDE:
            continue
        words = (folder / "README.md").read_text()
        assert 3 <= len(words.splitlines()) <= 20, folder
        for name in re.findall(r"`([\w./-]+\.(?:py|ts|vue))`", words):
            somewhere = [folder / name, ROOT / name, ROOT / "src" / "vennpair" / name]
            below = list(folder.rglob(name)) if "/" not in name else []
            assert any(path.exists() for path in somewhere) or below, f"{folder}: {name}"


def test_no_two_tests_take_one_shell() -> None:
    taken: dict[str, Path] = {}
    for path in sorted((ROOT / "tests").rglob("test_*.py")):
        for label in re.findall(r"new_(?:pairing|sides)\(\"([^\"]+)\"", path.read_text()):
            assert label not in taken, f"{label}: {taken[label].name} and {path.name}"
            taken[label] = path
