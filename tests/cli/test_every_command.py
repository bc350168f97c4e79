"""Every command against a service that answers as the kept schema says: what it prints in each form,
that a dry run changes nothing, and how it ends when it is refused, not reached or interrupted.
"""

from __future__ import annotations

import json
from collections.abc import Callable

import httpx
import pytest
from tests.cli.conftest import ALL, the_error
from tests.client.schema_service import REFUSED, Service
from tools.world.actors import Ran

# What these ask for reads, compares or plans: it changes nothing on either side.
HARMLESS = {
    "pairings_catalogue_create",
    "pairings_comparisons_create",
    "pairings_drifts_create",
    "set_ups_create",
    "set_ups_destroy",
    "set_ups_plan_create",
}
FOLLOWS = {"relay watch"}  # until it is interrupted
ALONE = {"cartridge inspect", "college-sign-in", "sign-out"}  # may end without asking a service
# What makes these change something.
WORDS = {
    "pair": ["--agree"],
    "pair-several": ["x", "--agree"],
    "set-up": ["--agree"],
    "tool": ["--off"],
    "copied": ["--same"],
    "first-steps": ["--access", "fee", "--place"],
    "cartridge bring": ["--all"],
    "cartridge rename": ["x", "--to", "y"],
    "deploy": ["x"],
    "changes": ["--follow"],
    "average": ["--title", "y"],
    "relay rule": ["--when", "due"],
    "settle": ["--safe"],
    "schedule": ["--no-nightly"],
}
STATES = {"settlements carry-out": "proposed"}  # of what they change


# The one has a dry run of a file that it writes; in the other both sides are called alike here.
OTHERWISE = {"reconcile", "connection set"}
DRY = [
    name
    for name, each in ALL.items()
    if "--dry-run" in each._option_string_actions and name not in OTHERWISE
]


@pytest.mark.parametrize("name", ALL)
def test_a_command_prints_one_document_or_one_error(name: str, run: Callable[..., Ran]) -> None:
    for full in (True, False):
        ran = run(name, Service(full=full), "--format", "json")
        if ran.status in {0, 1}:
            assert isinstance(json.loads(ran.out), dict | list)
        elif ran.status == 130:
            assert name in FOLLOWS, "it waits without an end"
        else:
            assert ran.status in range(7)
            the_error(ran)


@pytest.mark.parametrize("name", ALL)
def test_a_command_speaks_to_people(name: str, run: Callable[..., Ran]) -> None:
    ran = run(name, Service())
    if ran.status in {0, 1}:
        assert ran.out
        assert not ran.out.startswith("{"), "JSON that nobody asked for"
    else:
        assert ran.status in range(7) or name in FOLLOWS
        assert ran.err.startswith("vennpair: ")
        assert ran.err.count("\n") == 1


@pytest.mark.parametrize("name", DRY)
def test_a_dry_run_changes_nothing(name: str, run: Callable[..., Ran]) -> None:
    """The same words without it change something, so it was the dry run that did not."""
    first, words = STATES.get(name, ""), WORDS.get(name, ())
    dry, wet = Service(full=True, first=first), Service(full=True, first=first)
    assert run(name, dry, *words, "--dry-run").status in {0, 1}
    assert run(name, wet, *words).status in {0, 1, 130}  # what was begun may never end here
    assert set(wet.wrote) - HARMLESS
    assert not set(dry.wrote) - HARMLESS


@pytest.mark.parametrize(
    ("status", "code"), [(401, 5), (403, 5), (404, 6), (409, 6), (422, 6), (500, 6)]
)
def test_a_refusal_is_told_with_what_to_do(status: int, code: int, run: Callable[..., Ran]) -> None:
    for name in ALL:
        service = Service(refused=lambda operation: True, status=status)
        ran = run(name, service, "--format", "json")
        if service.asked:
            assert (name, ran.status) == (name, code)
            assert the_error(ran)["message"] == REFUSED["detail"]
        else:  # what it was given keeps it from asking
            assert name in ALONE or ran.status in {2, 3}, name


def test_a_service_that_is_not_there_is_named(run: Callable[..., Ran]) -> None:
    def nobody(request: httpx.Request) -> httpx.Response:
        raise httpx.ConnectError("refused", request=request)

    for name in ALL:
        ran = run(name, nobody, "--format", "json")
        assert ran.status == 4 or name in ALONE or ran.status in {2, 3}, name
        if ran.status == 4:
            assert "pair.example" in the_error(ran)["message"]
