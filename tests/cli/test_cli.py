"""The command line: exit codes, errors on stderr, plain and JSON output, work on files without a
service.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from tests.conftest import EXAMPLES
from tests.standards.packages import ITEM, PAGE, manifest, package
from tools.world.actors import CommandLine, Ran, run_apart, run_here, sign_in
from tools.world.world import World

from vennpair.cli.session import keep_session

HEADER = "learner_id,learner_email,learner_name,item,score,points,at\n"


NOWHERE = {"VENNPAIR_SESSION": "/nonexistent/session.json"}


def run(*words: str, **environment: str) -> Ran:
    return run_here(words, NOWHERE | environment)


def error(ran: Ran, status: int) -> dict[str, Any]:
    """Return the error of a failed command; stderr holds it alone, without a traceback."""
    assert ran.status == status, ran.err
    found: dict[str, Any] = json.loads(ran.err)["error"]
    assert {"code", "message", "remedy"} <= set(found)
    return found


@pytest.mark.parametrize(
    ("words", "status", "code"),
    [
        (("nonsense",), 2, "usage"),
        (("reconcile",), 2, "what_to_compare"),
        (("reconcile", "--publisher", "x.csv"), 2, "what_to_compare"),
        (("shells",), 5, "not_signed_in"),
        (("cartridge", "inspect", "/no/such/file"), 3, "unreadable"),
        (("reconcile", "--publisher", "/no/file", "--gradebook", "/no/file"), 3, "unreadable"),
        (("sign-in", "--user", "x"), 2, "no_service"),
    ],
)
def test_errors_are_one_json_document_on_stderr(
    words: tuple[str, ...], status: int, code: str
) -> None:
    assert error(run(*words, "--format", "json"), status)["code"] == code
    assert error(run("--format", "json", *words), status)["code"] == code
    plain = run_apart(words, NOWHERE)
    assert plain.status == status
    assert plain.out == ""
    assert plain.err.startswith("vennpair: ")
    assert plain.err.count("\n") == 1


def test_a_service_that_is_not_there() -> None:
    assert (
        error(
            run(
                "shells",
                "--format",
                "json",
                VENNPAIR_SERVICE="http://127.0.0.1:9",
                VENNPAIR_TOKEN="t",
            ),
            4,
        )["code"]
        == "unreachable"
    )


@pytest.mark.parametrize(
    ("words", "environment", "status", "code"),
    [
        (("shells",), {"VENNPAIR_SERVICE": "pair.example", "VENNPAIR_TOKEN": "t"}, 4, "no_address"),
        (
            ("shells",),
            {"VENNPAIR_SERVICE": "http://nobody.invalid", "VENNPAIR_TOKEN": "t"},
            4,
            "no_host",
        ),
        (("sign-in", "--service", "http://pair.example", "--user", "a"), {}, 2, "not_https"),
        (("reconcile", "--all", "--report", "x.csv"), {}, 2, "which_report"),
        (("reconcile", "--all", "--plot", "x.png"), {}, 2, "which_report"),
    ],
)
def test_what_a_scripter_gets_wrong_is_told_apart(
    words: tuple[str, ...], environment: dict[str, str], status: int, code: str
) -> None:
    assert error(run(*words, "--format", "json", **environment), status)["code"] == code


def test_a_kept_token_goes_to_its_own_service_alone_and_its_file_to_its_owner(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    kept = tmp_path / "session.json"
    kept.write_text("{}")
    kept.chmod(0o644)
    monkeypatch.setenv("VENNPAIR_SESSION", str(kept))
    keep_session("http://127.0.0.1:9", "vnp_kept")
    assert kept.stat().st_mode & 0o777 == 0o600
    mine = {"VENNPAIR_SESSION": str(kept)}
    other = run("shells", "--format", "json", VENNPAIR_SERVICE="http://127.0.0.1:10", **mine)
    assert error(other, 5)["code"] == "not_signed_in"
    own = run("shells", "--format", "json", VENNPAIR_SERVICE="http://127.0.0.1:9/", **mine)
    assert error(own, 4)["code"] == "unreachable"


def test_names_do_nothing_to_a_terminal(tmp_path: Path) -> None:
    left, right = tmp_path / "a.csv", tmp_path / "b.csv"
    name = "\x1b[31mAda\x9b2J \u202eadA"
    left.write_text(f"{HEADER}1,,{name},Quiz,8,10,\n", encoding="utf-8")
    right.write_text(f"{HEADER}1,,{name},Quiz,7,10,\n", encoding="utf-8")
    ran = run("reconcile", "--publisher", str(left), "--gradebook", str(right))
    assert "Ada" in ran.out
    assert not {"\x1b", "\x9b", "\u202e"} & set(ran.out)


def test_inspecting_a_good_file_a_faulty_one_and_one_of_no_use(tmp_path: Path) -> None:
    good = run(
        "cartridge", "inspect", str(EXAMPLES / "cartridge" / "plain-good.imscc"), "--format", "json"
    )
    assert good.status == 0
    assert [row["title"] for row in json.loads(good.out)["outline"]] == [
        "Folder one",
        "Reading one",
        "Link one",
        "Handout one",
    ]
    faulty = tmp_path / "faulty.imscc"
    faulty.write_bytes(package({"imsmanifest.xml": manifest(ITEM, PAGE)}))
    ran = run("cartridge", "inspect", str(faulty), "--format", "json")
    assert ran.status == 1
    assert [finding["code"] for finding in json.loads(ran.out)["findings"]] == ["missing_file"]
    useless = tmp_path / "useless.imscc"
    useless.write_bytes(b"no zip")
    ran = run("cartridge", "inspect", str(useless), "--format", "json")
    assert error(ran, 3)["code"] == "not_a_zip"
    assert json.loads(ran.out)["findings"][0]["code"] == "not_a_zip"


def test_limits_come_from_the_environment(tmp_path: Path) -> None:
    file = tmp_path / "a.imscc"
    file.write_bytes(package())
    ran = run(
        "cartridge", "inspect", str(file), "--format", "json", VENNPAIR_CARTRIDGE_MAX_MEMBERS="1"
    )
    assert error(ran, 3)["code"] == "too_large"
    assert (
        error(
            run(
                "cartridge",
                "inspect",
                str(file),
                "--format",
                "json",
                VENNPAIR_CARTRIDGE_MAX_MEMBERS="many",
            ),
            2,
        )["code"]
        == "bad_limit"
    )


def test_reading_for_people_shows_the_outline_and_what_to_do() -> None:
    ran = run("cartridge", "inspect", str(EXAMPLES / "cartridge" / "thin12-rich.imscc"))
    assert ran.status == 0
    assert "Waves (thin) & weather: Common Cartridge 1.2, thin, es-MX" in ran.out
    assert "      Wave tank\tlti_link" in ran.out
    assert "Ask the tool's maker for an https address." in ran.out


def test_comparing_files_is_byte_for_byte_the_same_and_fails_only_when_asked() -> None:
    folder = EXAMPLES / "reconcile" / "rounding"
    words = (
        "reconcile",
        "--publisher",
        str(folder / "publisher.csv"),
        "--gradebook",
        str(folder / "gradebook.csv"),
        "--format",
        "json",
    )
    first, second = run(*words), run(*words)
    assert first.status == 0
    assert first.out == second.out
    assert run(*words, "--fail-on-differences").status == 1
    same = (
        "reconcile",
        "--publisher",
        str(folder / "publisher.csv"),
        "--gradebook",
        str(folder / "publisher.csv"),
        "--fail-on-differences",
    )
    assert run(*same).status == 0


def test_a_refused_file_is_named_with_its_line(tmp_path: Path) -> None:
    folder = EXAMPLES / "reconcile" / "bad_score_comma"
    ran = run(
        "reconcile",
        "--publisher",
        str(folder / "publisher.csv"),
        "--gradebook",
        str(folder / "gradebook.csv"),
        "--format",
        "json",
    )
    found = error(ran, 3)
    assert (found["code"], found["file"], found["line"]) == ("bad_score", "gradebook.csv", 7)
    assert ran.out == ""


def test_a_large_class_is_compared_within_a_few_seconds_and_names_stay_text(tmp_path: Path) -> None:
    rows = "".join(
        f"T{learner},,=HYPERLINK({learner}),Item {item},{item % 11},10,\n"
        for learner in range(500)
        for item in range(40)
    )
    (tmp_path / "p.csv").write_text(HEADER + rows, encoding="utf-8-sig")
    (tmp_path / "g.csv").write_text(
        HEADER + rows.replace(",Item 39,6,", ",Item 39,7,"), encoding="utf-16"
    )
    ran = run(
        "reconcile",
        "--publisher",
        str(tmp_path / "p.csv"),
        "--gradebook",
        str(tmp_path / "g.csv"),
        "--format",
        "json",
    )
    document = json.loads(ran.out)
    assert document["summary"] == {
        "learners": 500,
        "columns": 40,
        "cells": 20_000,
        "agree": 19_500,
        "differ": 500,
        "unsent": 0,
        "gradebook_only": 0,
        "publisher_only": 0,
        "shell_only": 0,
        "ambiguous": 0,
    }
    assert document["cells"][0]["learner"]["name"] == "=HYPERLINK(0)"


@pytest.mark.parametrize("encoding", ["ascii", "latin-1", "utf-16"])
def test_a_terminal_without_the_letters_of_a_name_gets_their_numbers(
    tmp_path: Path, encoding: str
) -> None:
    (tmp_path / "a.csv").write_text(HEADER + "1,,Žofie Ødegård 林,Quiz,8,10,\n", "utf-8")
    (tmp_path / "b.csv").write_text(HEADER + "1,,Žofie Ødegård 林,Quiz,7,10,\n", "utf-8")
    command = [
        sys.executable,
        "-m",
        "vennpair.cli.main",
        "reconcile",
        "--publisher",
        str(tmp_path / "a.csv"),
        "--gradebook",
        str(tmp_path / "b.csv"),
    ]
    environment = os.environ | {"PYTHONIOENCODING": encoding}
    plain = subprocess.run(command, capture_output=True, env=environment)
    said = subprocess.run([*command, "--format", "json"], capture_output=True, env=environment)
    assert (plain.returncode, said.returncode, plain.stderr, said.stderr) == (0, 0, b"", b"")
    assert (
        json.loads(said.stdout.decode(encoding))["cells"][0]["learner"]["name"]
        == "Žofie Ødegård 林"
    )
    assert ("\\u6797" if encoding != "utf-16" else "林") in plain.stdout.decode(encoding)


def test_output_that_nobody_reads_to_the_end_is_no_error() -> None:
    command = (
        f"{sys.executable} -m vennpair.cli.main cartridge inspect"
        f" {EXAMPLES / 'cartridge' / 'cc11-rich.imscc'} | head -n 1"
    )
    ran = subprocess.run(["bash", "-o", "pipefail", "-c", command], capture_output=True, text=True)
    assert ran.stderr == ""


def test_signed_in_words_find_shells_and_ask_back(world: World, cli: CommandLine) -> None:
    assert cli.json("status")["me"]["name"] == "Maren Holt"
    unknown = cli("status", "XYZ 999", "--format", "json")
    assert (unknown.status, json.loads(unknown.err)["error"]["code"]) == (6, "shell_unknown")
    shown = cli("pair", "HYD 210-02", "HYD 210-02", "--dry-run")
    assert (
        "Would pair HYD 210-02 Rivers and Groundwater with Rivers and Groundwater, 3rd ed., HYD"
        " 210-02" in shown.out
    )
    assert cli("items", "HYD 210-02", "--format", "json").status == 6
    ambiguous = cli("pair", "HYD 210-02", "Rivers", "--format", "json")
    assert json.loads(ambiguous.err)["error"]["code"] == "course_ambiguous"


def test_the_token_file_can_be_read_by_its_owner_only_and_is_gone_after_signing_out(
    world: World, tmp_path: Path
) -> None:
    line = CommandLine(world, str(tmp_path / "deep" / "session.json"))
    assert sign_in(world, line).status == 0
    assert (tmp_path / "deep" / "session.json").stat().st_mode & 0o077 == 0
    assert line("sign-out").status == 0
    assert not (tmp_path / "deep" / "session.json").exists()
    assert line("shells").status == 5


def test_a_wide_table_is_compared_with_its_layout_and_asked_for_one_without(tmp_path: Path) -> None:
    (tmp_path / "p.csv").write_text(HEADER + "T1,,Ada Brook,Quiz,8,10,\n")
    (tmp_path / "g.csv").write_text("Number\tQuiz\nT1\t7\n")
    (tmp_path / "layout.toml").write_text('[table]\nseparator = "\\t"\n[learner]\nid = "Number"\n')
    words = (
        "reconcile",
        "--publisher",
        str(tmp_path / "p.csv"),
        "--gradebook",
        str(tmp_path / "g.csv"),
        "--format",
        "json",
    )
    document = json.loads(run(*words, "--layout", str(tmp_path / "layout.toml")).out)
    assert [cell["kind"] for cell in document["cells"]] == ["differ"]
    assert document["columns"][0]["findings"] == ["points_missing"]
    assert "--layout" in error(run(*words), 3)["remedy"]
    (tmp_path / "layout.toml").write_text("[learner]\n")
    assert error(run(*words, "--layout", str(tmp_path / "layout.toml")), 3)["code"] == "bad_layout"
