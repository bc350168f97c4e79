"""The commands of connecting and setting up: what they say, what they print as JSON, how
they end.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from tests.conftest import Sides
from tools.world.actors import CommandLine, sign_in
from tools.world.world import ADMINISTRATOR, PUBLISHER, World


@pytest.fixture(scope="module")
def admin(world: World) -> CommandLine:
    line = CommandLine(world, "administrator.json")
    assert sign_in(world, line, ADMINISTRATOR).status == 0
    return line


@pytest.fixture(scope="module")
def paired(cli: CommandLine, new_pairing: Callable[[str], tuple[Sides, str]]) -> str:
    return new_pairing("HYD 210-CLI")[0].label


def error(cli: CommandLine, *words: str, given: str = "") -> tuple[int, str]:
    ran = cli(*words, "--format", "json", given=given)
    return ran.status, json.loads(ran.err)["error"]["code"]


def test_connections_are_listed_and_checked_step_by_step(admin: CommandLine) -> None:
    listed = admin.json("connection", "list")
    assert {PUBLISHER} <= {row["name"] for row in listed["publishers"]}
    assert admin.json("connection", "card")["login_url"].endswith("/lti/login")
    assert set(admin.json("connection", "card", PUBLISHER)) == {
        "issuer",
        "client_id",
        "deployment_id",
        "authorization_url",
        "token_url",
        "jwks_url",
    }
    checked = admin("connection", "check", PUBLISHER)
    assert checked.status == 0
    assert "every step that could be tried works" in checked.out
    assert admin.json("connection", "check", "Tarnfield Campus")["works"]


def test_a_publisher_by_hand_is_shown_first_keeps_its_secret_and_fails_its_check(
    admin: CommandLine,
) -> None:
    would = admin(
        "connection",
        "add",
        "publisher",
        "Hand Press",
        "oneroster_secret=-",
        "launch_url=https://hand.example/l",
        "--dry-run",
        "--format",
        "json",
        given="s3cret\n",
    )
    assert would.json == {
        "fields": {
            "name": "Hand Press",
            "oneroster_secret": "(a secret)",
            "launch_url": "https://hand.example/l",
        },
        "dry_run": True,
    }
    assert "Hand Press" not in str(admin.json("connection", "list"))
    made = admin(
        "connection",
        "add",
        "publisher",
        "Hand Press",
        "login_url=http://127.0.0.1:9/login",
        "launch_url=http://127.0.0.1:9/l",
        "--format",
        "json",
    )
    assert made.json["card"]["issuer"]
    assert error(admin, "connection", "set", "Hand Press", "launch_url=http://hand.example/l") == (
        6,
        "invalid",
    )
    assert error(admin, "connection", "set", "Hand Press", "nothing") == (2, "bad_field")
    assert error(admin, "connection", "add", "platform", "Half Campus") == (6, "invalid")
    failing = admin("connection", "check", "Hand Press")
    assert failing.status == 1
    assert "their side" in failing.out
    assert admin("connection", "set", "Hand Press", "active=no").status == 0


def test_invitations_need_an_address_and_say_what_to_do_with_them(
    admin: CommandLine, world: World
) -> None:
    assert "/lti/register/" in admin.json("connection", "invite", "platform")["link"]
    assert error(admin, "connection", "invite", "publisher") == (2, "no_address")
    registered = admin(
        "connection",
        "invite",
        "publisher",
        "--at",
        f"{world.url('press')}/lti/register",
        "--name",
        "Second Press",
        "--visit",
    )
    assert registered.status == 0, registered.err
    assert "has registered" in registered.out
    refused = admin(
        "connection",
        "invite",
        "publisher",
        "--at",
        f"{world.url('press')}/nowhere",
        "--visit",
        "--format",
        "json",
    )
    assert (refused.status, json.loads(refused.err)["error"]["code"]) == (6, "publisher_refused")
    admin("connection", "set", "Second Press", "active=no")


def test_only_administrators_connect_and_see_people(cli: CommandLine, admin: CommandLine) -> None:
    assert error(cli, "connection", "list") == (5, "not_allowed")
    assert error(cli, "people") == (5, "not_allowed")
    assert {"Maren Holt"} <= {row["name"] for row in admin.json("people")}
    assert error(admin, "people", "orla", "--role", "teacher") == (6, "last_administrator")
    assert admin.json("connection", "keys")[0]["kid"]


def test_a_token_s_value_is_printed_once_and_works_by_environment(
    cli: CommandLine, world: World
) -> None:
    made = cli.json("token", "new", "script", "--scope", "read", "--days", "1")
    environment = {"VENNPAIR_SERVICE": world.url("vennpair"), "VENNPAIR_TOKEN": made["token"]}
    assert cli("shells", environment=environment).status == 0
    refused = cli("consent", "HYD 210-02", "--agree", "--format", "json", environment=environment)
    assert (refused.status, json.loads(refused.err)["error"]["code"]) == (5, "scope_missing")
    assert made["token"] not in cli("token", "list").out
    assert cli("token", "revoke", made["id"]).status == 0
    assert cli("shells", environment=environment).status == 5


@pytest.mark.parametrize(
    ("words", "key", "shown"),
    [
        (("consent",), "agreed", "agreed to this for"),
        (("tool",), "offered", "is on in"),
        (("copied",), "copied", "was not copied"),
        (("learners",), "open", "has its learner in the shell"),
        (("first-steps",), "text", "First steps: your homework"),
    ],
)
def test_each_command_speaks_to_people_and_to_scripts(
    cli: CommandLine, paired: str, words: tuple[str, ...], key: str, shown: str
) -> None:
    assert key in cli.json(*words, paired)
    told = cli(*words, paired)
    assert told.status == 0
    assert shown in told.out


def test_what_changes_something_says_so_first(cli: CommandLine, paired: str) -> None:
    ahead: dict[str, Any] = cli.json("pair", paired, "--end", "--dry-run")
    assert any("undo this until" in sentence for sentence in ahead["consequences"])
    assert "Nothing was changed" in cli("tool", paired, "--off", "--dry-run").out
    assert cli.json("shells") == cli.json("shells")
    assert error(cli, "pair", paired, "--pause", "--dry-run") == (6, "wrong_state")
    assert error(cli, "pair", paired, "--undo-end") == (2, "nothing_ended")
    assert error(cli, "first-steps", paired, "--place") == (2, "no_access")
    assert error(cli, "first-steps", paired, "--handed-out") == (2, "no_access")
    assert cli.json("first-steps", paired, "--access", "fee")["chosen"] == "", "showing is not more"
    assert cli.json("first-steps", paired, "--access", "fee", "--handed-out")["chosen"] == "fee"
    assert cli("pair", paired, "--end").status == 0
    assert cli.json("pair", paired, "--undo-end")["state"] == "paused"


@pytest.mark.usefixtures("no_account")
def test_searching_says_what_can_be_made_and_which_account_is_linked(cli: CommandLine) -> None:
    assert {row["publisher_name"] for row in cli.json("account", "list")} >= {PUBLISHER}
    assert error(cli, "account", "look", PUBLISHER)[0] == 6
    assert [row["author"] for row in cli.json("titles", "calder")] == ["Ines Calder"]
    assert cli.json("courses", "no such words at all") == []
    assert "No homework course fits" in cli("courses", "no such words at all").out
    assert cli("notices").status == 0
    several = cli("pair-several", "HYD 210-03", "--dry-run", "--format", "json")
    assert several.status in {0, 6}
