"""Who may ask what: every operation of the API, asked by everybody, with objects that exist.

``TABLE`` has a row for each operation. Somebody is ``in`` where they are neither refused nor told
that there is nothing; what a request with an empty body then comes to is not asked here.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import ExitStack
from dataclasses import dataclass

import httpx
import pytest
from tools.world import at_service
from tools.world.asked import operations
from tools.world.world import ADMINISTRATOR, INSTRUCTOR, PASSWORD, World

from tests.conftest import Sides
from tests.service.objects import Ids, address, lay_objects
from vennpair.client import VennPair

# Everybody is asked in this order: those who may not come first, so that nothing is changed yet.
ROLES = ("nobody", "stranger", "colleague", "assistant", "instructor", "administrator")
ASSISTANT, COLLEAGUE = "tamsin.reave@tarnfield.example", "colin.marsh@tarnfield.example"

# What each of the roles gets, in their order; ``stranger`` administers another institution,
# ``colleague`` teaches another shell of the same one.
KINDS = {
    "open": ("in", "in", "in", "in", "in", "in"),
    "own": (401, "in", "in", "in", "in", "in"),  # one's own things, or what nobody else has
    "look": (401, 404, 404, "in", "in", "in"),
    "help": (401, 404, 404, "in", "in", "in"),  # what an assistant may do beside looking
    "change": (401, 404, 404, 403, "in", "in"),
    "mine": (401, 404, 404, 404, "in", 404),  # the instructor's alone
    "maker": (401, 404, 404, 403, "in", 403),  # who began it
    "rule": (401, "in", 403, 403, 403, "in"),  # each administrator their own institution
    "rule one": (401, 404, 403, 403, 403, "in"),
    "browser": (401, 403, 403, 403, 403, 403),  # one's own, but with no token
}
TABLE = """
own GET /accounts
own POST /accounts
mine DELETE /accounts/{id}
mine POST /accounts/{id}/confirm
mine POST /accounts/{id}/look
own GET /agreement
own POST /agreement
rule GET /audit
rule GET /audit/export
rule DELETE /connections/college-sign-in
rule GET /connections/college-sign-in
rule PUT /connections/college-sign-in
rule GET /connections/health
rule one GET /connections/invitations/{id}
rule GET /connections/keys
rule GET /connections/platforms
rule POST /connections/platforms
rule GET /connections/platforms/card
rule POST /connections/platforms/invite
rule POST /connections/platforms/register
rule one GET /connections/platforms/{id}
rule one PATCH /connections/platforms/{id}
rule one POST /connections/platforms/{id}/check
rule GET /connections/publishers
rule POST /connections/publishers
rule POST /connections/publishers/invite
rule one GET /connections/publishers/{id}
rule one PATCH /connections/publishers/{id}
rule one POST /connections/publishers/{id}/check
own GET /courses
own POST /file-comparisons
own POST /file-comparisons/layout
open GET /health
look GET /jobs/{id}
own GET /me
own PATCH /me
own POST /me/password
browser GET /me/passkeys
browser POST /me/passkeys
browser DELETE /me/passkeys/{id}
browser POST /me/passkeys/options-to-add
browser POST /me/passkeys/options-to-prove
browser DELETE /me/second-factor
browser POST /me/second-factor
browser PUT /me/second-factor
own GET /me/tokens
own POST /me/tokens
mine DELETE /me/tokens/{token_key}
own GET /notices
own POST /notices/read
own GET /operations
look GET /operations/{id}
change POST /operations/{id}/retry
look GET /operations/{id}/steps
change POST /operations/{id}/stop
change POST /operations/{id}/undo
own POST /pairings
own POST /pairings/several
look GET /pairings/{id}
change PATCH /pairings/{id}
look GET /pairings/{id}/consequences
look GET /pairings/{id}/first-steps
change POST /pairings/{id}/first-steps
look GET /pairings/{pairing_pk}/activity
change POST /pairings/{pairing_pk}/asks
look GET /pairings/{pairing_pk}/averages
change POST /pairings/{pairing_pk}/averages
change DELETE /pairings/{pairing_pk}/averages/{id}
look GET /pairings/{pairing_pk}/averages/{id}/file
look GET /pairings/{pairing_pk}/averages/{id}/rows
change POST /pairings/{pairing_pk}/averages/{id}/send
look GET /pairings/{pairing_pk}/catalogue
change POST /pairings/{pairing_pk}/catalogue
change POST /pairings/{pairing_pk}/column-views
look GET /pairings/{pairing_pk}/comparisons
help POST /pairings/{pairing_pk}/comparisons
look GET /pairings/{pairing_pk}/comparisons/{comparison_pk}/findings
look GET /pairings/{pairing_pk}/comparisons/{id}
look GET /pairings/{pairing_pk}/comparisons/{id}/report
look GET /pairings/{pairing_pk}/drifts
change POST /pairings/{pairing_pk}/drifts
change POST /pairings/{pairing_pk}/drifts/mend
change POST /pairings/{pairing_pk}/drifts/way
look GET /pairings/{pairing_pk}/exports
look GET /pairings/{pairing_pk}/exports/{id}/file
look GET /pairings/{pairing_pk}/imports
change POST /pairings/{pairing_pk}/imports
look GET /pairings/{pairing_pk}/imports/{id}
look GET /pairings/{pairing_pk}/imports/{id}/deliveries
change POST /pairings/{pairing_pk}/imports/{id}/deliveries
change POST /pairings/{pairing_pk}/imports/{id}/stop
look GET /pairings/{pairing_pk}/imports/{id}/written
change POST /pairings/{pairing_pk}/imports/{id}/written
look GET /pairings/{pairing_pk}/imports/{import_pk}/entries
change POST /pairings/{pairing_pk}/imports/{import_pk}/entries/rename
look GET /pairings/{pairing_pk}/imports/{import_pk}/entries/{id}
change POST /pairings/{pairing_pk}/imports/{import_pk}/entries/{id}/match
look GET /pairings/{pairing_pk}/imports/{import_pk}/entries/{id}/preview
look GET /pairings/{pairing_pk}/items
look GET /pairings/{pairing_pk}/learner-checks
change POST /pairings/{pairing_pk}/learner-checks
look GET /pairings/{pairing_pk}/learner-checks/{id}
look GET /pairings/{pairing_pk}/matches
change POST /pairings/{pairing_pk}/matches
change DELETE /pairings/{pairing_pk}/matches/{id}
look GET /pairings/{pairing_pk}/notes
help POST /pairings/{pairing_pk}/notes
change DELETE /pairings/{pairing_pk}/notes/{id}
change POST /pairings/{pairing_pk}/orders
look GET /pairings/{pairing_pk}/outline
change POST /pairings/{pairing_pk}/packages
look GET /pairings/{pairing_pk}/packages/{id}
look GET /pairings/{pairing_pk}/packages/{id}/content
maker PUT /pairings/{pairing_pk}/packages/{id}/parts/{number}
look GET /pairings/{pairing_pk}/placements
change POST /pairings/{pairing_pk}/placements/take-back
look GET /pairings/{pairing_pk}/placements/{placement}/cells/{id}
change POST /pairings/{pairing_pk}/pulls
look GET /pairings/{pairing_pk}/readiness
look GET /pairings/{pairing_pk}/relay
change POST /pairings/{pairing_pk}/relay
look GET /pairings/{pairing_pk}/relay-rules
change POST /pairings/{pairing_pk}/relay-rules
look GET /pairings/{pairing_pk}/relay/chart
change PATCH /pairings/{pairing_pk}/relay/setting
change POST /pairings/{pairing_pk}/releases
look GET /pairings/{pairing_pk}/rollouts
change POST /pairings/{pairing_pk}/rollouts
change POST /pairings/{pairing_pk}/rollouts/cartridge
look GET /pairings/{pairing_pk}/rollouts/{id}
change POST /pairings/{pairing_pk}/score-files
look GET /pairings/{pairing_pk}/scores
look GET /pairings/{pairing_pk}/scores/{id}
look GET /pairings/{pairing_pk}/settlements
help POST /pairings/{pairing_pk}/settlements
look GET /pairings/{pairing_pk}/settlements/{id}
change POST /pairings/{pairing_pk}/settlements/{id}/carry-out
change POST /pairings/{pairing_pk}/settlements/{id}/dismiss
look GET /pairings/{pairing_pk}/statement
change PATCH /pairings/{pairing_pk}/statement/schedule
look GET /pairings/{pairing_pk}/strays
look GET /pairings/{pairing_pk}/travels
rule GET /people
rule one DELETE /people/{id}
rule one PATCH /people/{id}
mine GET /pickings/{id}
mine POST /pickings/{id}/answer
own GET /set-ups
own POST /set-ups
mine GET /set-ups/{id}
mine POST /set-ups/{id}/plan
mine POST /set-ups/{id}/start
mine POST /set-ups/{id}/stop
mine POST /set-ups/{id}/undo
mine DELETE /set-ups/{id}
own GET /shells
look GET /shells/{id}
look GET /shells/{id}/consent
change POST /shells/{id}/consent
change DELETE /shells/{id}/consent
look GET /shells/{id}/copied
change POST /shells/{id}/copied
look GET /shells/{id}/tool
change PATCH /shells/{id}/tool
open POST /sign-in
own GET /search
open GET /sign-in/ways
own POST /sign-out
own GET /titles
own GET /today
"""
ROWS = {
    f"{method} {path}": kind.strip()
    for kind, method, path in (line.rsplit(" ", 2) for line in TABLE.strip().splitlines())
}
OPERATIONS = [f"{method} {path.removeprefix('/api/v1')}" for method, path in operations()]
# What ends something is asked last, so that the rest still finds it.
IN_TURN = sorted(ROWS, key=lambda each: ("sign-out" in each, each.startswith("DELETE")))
SECOND = [each for each in IN_TURN if "{pairing_pk}" in each and each.count("{") > 1]


@dataclass(frozen=True)
class Everybody:
    """A client for each role, and the ids of three pairings that the instructor has."""

    clients: dict[str, VennPair]
    own: Ids
    other: Ids
    spare: Ids

    def ask(self, role: str, operation: str, ids: Ids, second: Ids | None = None) -> httpx.Response:
        method, path = operation.split(" ")
        body = None if method == "GET" else {}
        return self.clients[role]._http.request(method, address(path, ids, second), json=body)


@pytest.fixture(scope="module")
def everybody(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> Iterator[Everybody]:
    pairings = [new_pairing(f"HYD 210-ROLE{number}")[1] for number in range(2)]
    own, spare, other = (
        lay_objects(world, pairing, INSTRUCTOR) for pairing in (pairings[0], *pairings)
    )
    at_service.add_teacher(world, pairings[0], ASSISTANT, PASSWORD, "assistant")
    at_service.add_teacher(world, pairings[1], COLLEAGUE, PASSWORD)
    stranger = world.second_college()
    for ids in (own, spare, other):
        ids["tokens"] = venn.make_token("for the table", ["read"])["id"]
    people = {
        "stranger": stranger,
        "colleague": COLLEAGUE,
        "assistant": ASSISTANT,
        "instructor": INSTRUCTOR,
        "administrator": ADMINISTRATOR,
    }
    with ExitStack() as stack:
        clients = {"nobody": stack.enter_context(VennPair(world.url("vennpair")))}
        for role, who in people.items():
            token = clients["nobody"].sign_in(who, PASSWORD)["token"]
            clients[role] = stack.enter_context(VennPair(world.url("vennpair"), token))
        yield Everybody(clients, own, other, spare)


def test_every_operation_has_one_row_in_the_table() -> None:
    assert sorted(ROWS) == sorted(OPERATIONS)
    assert len(TABLE.strip().splitlines()) == len(ROWS)


@pytest.mark.parametrize("operation", SECOND)
def test_nothing_of_another_pairing_is_reached_through_one_s_own(
    everybody: Everybody, operation: str
) -> None:
    answer = everybody.ask("instructor", operation, everybody.own, everybody.other)
    assert (answer.status_code, answer.json()["code"]) == (404, "not_found")


@pytest.mark.parametrize("operation", IN_TURN)
def test_who_may_ask_it(everybody: Everybody, operation: str) -> None:
    found = {}
    for role in ROLES:
        # What the instructor has just ended is gone for the administrator; they get another one.
        ids = everybody.spare if role == "administrator" else everybody.own
        found[role] = told(everybody.ask(role, operation, ids))
    assert found == dict(zip(ROLES, KINDS[ROWS[operation]], strict=True))


def told(answer: httpx.Response) -> int | str:
    """Return ``in``, or the status with which somebody was turned away."""
    assert answer.status_code < 500, answer.text
    turned_away = answer.status_code in {401, 403, 404}
    if turned_away and answer.json()["code"] in {"not_signed_in", "not_allowed", "not_found"}:
        return answer.status_code
    return "in"
