"""Scores: into the ledger at once, into the right cell once, and every difference found with its
cause.
"""

from __future__ import annotations

import json
import random
import signal
import time
import uuid
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from typing import Any

import httpx
import pytest
from tools.world import at_press, at_service
from tools.world.actors import hand_in, submit_answers, type_over
from tools.world.browser import Browser
from tools.world.differences import until_scores
from tools.world.hold import until
from tools.world.world import World

from tests.conftest import Sides
from vennpair.client import VennPair
from vennpair.client.schema import Finding
from vennpair.standards.lti.grades import Score, next_page, write_score
from vennpair.standards.lti.keys import private_key
from vennpair.standards.lti.tokens import token_request
from vennpair.standards.lti.vocabulary import (
    MEDIA_SCORE,
    SCOPE_LINE_ITEM_READ,
    SCOPE_RESULT_READ,
    SCOPE_SCORE,
)
from vennpair.standins.tarnfield import section

pytestmark = pytest.mark.timed

LEARNERS = section(2)[:6]
ITEM, OTHER = "Practice set 1A", "Unit 1 quiz"


@pytest.fixture(scope="module")
def live(venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]) -> tuple[Sides, str]:
    """A pairing with two items deployed and the relay on."""
    sides, pairing = new_pairing("HYD 210-REL")
    items = [item["id"] for item in venn.items(pairing) if item["title"] in {ITEM, OTHER}]
    venn.wait(venn.deploy(pairing, items, folder="Homework")[0]["job"])
    assert venn.change_pairing(pairing, relay_on=True)["state"] == "live"
    return sides, pairing


def settled(venn: VennPair, pairing: str, count: int, state: str = "accepted") -> None:
    """Wait until so many cells are in a state."""
    until_scores(venn, pairing, **{state: count})


def compared(venn: VennPair, pairing: str) -> dict[tuple[str, str], Finding]:
    """Compare; return the cells that do not agree, by learner and item."""
    comparison = venn.compare(pairing)
    venn.wait(comparison["job"])
    return {
        (each["learner"], each["item"]): each
        for each in venn.findings(pairing, comparison["id"], scope="cell")
    }


def grade(world: World, sides: Sides, learner: str) -> str:
    """Return what the learner sees in the campus's gradebook for the first item."""
    browser = Browser()
    browser.sign_in(world.url("campus"), learner)
    page = browser.get(f"{world.url('campus')}/shells/{sides.context_id}/gradebook")
    return str(page.tree.xpath("//tbody/tr[1]/td[2]")[0].text_content().strip())


def test_scores_of_a_class_at_once_reach_their_cells_once(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    with ThreadPoolExecutor(6) as threads:
        list(
            threads.map(
                lambda pair: hand_in(world, pair[1].email, sides.context_id, ITEM, pair[0]),
                enumerate(LEARNERS),
            )
        )
    settled(venn, pairing, 6)
    assert [grade(world, sides, human.email) for human in LEARNERS] == [
        "0",
        "2",
        "4",
        "6",
        "8",
        "10",
    ]
    assert compared(venn, pairing) == {}


def test_a_resubmission_replaces_the_score(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    hand_in(world, LEARNERS[0].email, sides.context_id, ITEM, 5)
    settled(venn, pairing, 6)
    assert grade(world, sides, LEARNERS[0].email) == "10"
    assert venn.relay(pairing)["received"] == 7


def test_while_the_relay_is_off_scores_are_kept_and_go_when_it_is_on(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    venn.change_pairing(pairing, relay_on=False)
    hand_in(world, LEARNERS[1].email, sides.context_id, ITEM, 4)
    settled(venn, pairing, 1, "held")
    assert grade(world, sides, LEARNERS[1].email) == "2"
    finding = compared(venn, pairing)[f"{LEARNERS[1].given} {LEARNERS[1].family}", ITEM]
    assert finding["kind"] == "behind"
    assert "reported but not sent yet" in finding["cause"]
    venn.change_pairing(pairing, relay_on=True)
    settled(venn, pairing, 6)
    assert grade(world, sides, LEARNERS[1].email) == "8"


def test_a_platform_that_is_down_and_a_killed_worker_lose_nothing(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    browser = hand_in(world, LEARNERS[2].email, sides.context_id, ITEM, 1)
    settled(venn, pairing, 6)
    world.end("campus", signal.SIGKILL)
    try:
        submit_answers(browser, 5)

        def reasons() -> list[str]:
            return [cell["reason"] for cell in venn.scores(pairing)]

        until(lambda: "Tarnfield Campus did not answer" in " ".join(reasons()), reasons)
        world.end("worker", signal.SIGKILL)
    finally:
        world.start_site("campus")
        world.start_worker()

    def counts() -> dict[str, int]:
        at_service.sweep_relays(world)  # what came due after the new worker had looked
        return dict(venn.relay(pairing)["counts"])

    until(lambda: counts().get("accepted") == 6, counts, 300)
    assert compared(venn, pairing) == {}


def test_a_new_score_never_takes_away_what_a_person_typed(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    learner, name = LEARNERS[3], f"{LEARNERS[3].given} {LEARNERS[3].family}"
    type_over(world, sides.context_id, ITEM, "9.5", name)
    hand_in(world, learner.email, sides.context_id, ITEM, 1)
    settled(venn, pairing, 1, "clash")
    assert grade(world, sides, learner.email) == "9.50"
    finding = compared(venn, pairing)[name, ITEM]
    assert (finding["kind"], finding["publisher"], finding["gradebook"], finding["sent"]) == (
        "clash",
        "2",
        "9.5",
        "6",
    )
    cell = next(cell for cell in venn.scores(pairing) if cell["state"] == "clash")
    assert "Somebody typed 9.5 there since" in cell["reason"]
    type_over(world, sides.context_id, ITEM, "6", name)
    assert venn.send_again(pairing)["queued"] == 1
    settled(venn, pairing, 6)
    assert grade(world, sides, learner.email) == "2"
    hand_in(world, learner.email, sides.context_id, ITEM, 3)
    settled(venn, pairing, 6)
    assert grade(world, sides, learner.email) == "6"


def test_planted_differences_are_found_with_their_causes(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    names = [f"{human.given} {human.family}" for human in LEARNERS]
    type_over(world, sides.context_id, ITEM, "9.5", names[3])
    type_over(world, sides.context_id, ITEM, "", names[4])
    type_over(world, sides.context_id, OTHER, "12", names[4])
    at_press.answer(world, sides.course, LEARNERS[5].email, ITEM, "7", lost=True)
    type_over(world, sides.context_id, OTHER, "30")
    found = compared(venn, pairing)
    kinds = {key: finding["kind"] for key, finding in found.items()}
    assert kinds == {
        (names[3], ITEM): "edited",
        (names[4], ITEM): "cleared",
        (names[5], ITEM): "behind",
        (names[4], OTHER): "gradebook_only",
    }
    assert (
        found[names[3], ITEM]["publisher"],
        found[names[3], ITEM]["gradebook"],
        found[names[3], ITEM]["sent"],
    ) == ("6", "9.5", "6")
    assert "never reported" in found[names[5], ITEM]["cause"]
    comparison = next(venn.comparisons(pairing))
    columns = [
        (each["kind"], each["publisher"], each["gradebook"])
        for each in venn.findings(pairing, comparison["id"], scope="column")
    ]
    assert columns == [("points_differ", "20", "30")]
    verdict = venn.relay(pairing)["verdict"]
    assert (
        verdict["level"],
        verdict["act"],
        "1 score was never reported" in verdict["sentence"],
    ) == ("trouble", "see_unreported", True)


def test_sending_again_says_first_how_many_and_restores_by_force(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    told = venn.send_again(pairing, dry_run=True)
    assert (told["differ"], told["same"], told["queued"]) == (2, 4, 2)
    assert venn.send_again(pairing, force=True, dry_run=True)["queued"] == 6
    assert venn.send_again(pairing, force=True)["queued"] == 6
    settled(venn, pairing, 6)
    assert grade(world, sides, LEARNERS[3].email) == "6"


def test_the_score_service_checks_its_caller(world: World, live: tuple[Sides, str]) -> None:
    _, pairing = live
    base = f"{world.url('vennpair')}/lti/platform/pairings/{pairing}/lineitems"
    assert httpx.get(base).status_code == 401
    assert httpx.get(base, headers={"Authorization": "Bearer nonsense"}).status_code == 401
    form = {
        "grant_type": "client_credentials",
        "client_assertion_type": "urn:ietf:params:oauth:client-assertion-type:jwt-bearer",
        "client_assertion": "x.y.z",
    }
    answer = httpx.post(f"{world.url('vennpair')}/lti/platform/token", data=form)
    assert (answer.status_code, answer.json()["error"]) == (400, "invalid_client")


def _publisher_token(world: World, *scopes: str) -> str:
    """Get a token from the service as the press would, with the press's own key."""
    kid, pem, client_id, token_url = at_press.keys_toward_us(world)
    form = token_request(
        client_id,
        token_url,
        list(scopes) or [SCOPE_SCORE],
        private_key(kid, pem),
        now=int(time.time()),
        token_id=uuid.uuid4().hex,
    )
    return str(httpx.post(token_url, data=form).json()["access_token"])


def test_a_publisher_lists_line_items_and_results_as_the_standard_filters_and_pages_them(
    world: World, live: tuple[Sides, str]
) -> None:
    base = f"{world.url('vennpair')}/lti/platform/pairings/{live[1]}/lineitems"
    headers = {
        "Authorization": (
            f"Bearer {_publisher_token(world, SCOPE_LINE_ITEM_READ, SCOPE_RESULT_READ)}"
        )
    }

    def ask(url: str = base, **query: Any) -> list[Any]:
        answer = httpx.get(url, params=query or None, headers=headers)
        assert answer.status_code == 200, answer.text
        following = next_page(answer.headers.get("Link", ""))
        return [*answer.json(), *(ask(following) if following else [])]

    whole = ask()
    assert [each["label"] for each in whole] == [ITEM, OTHER]
    assert all(
        each["scoreMaximum"] > 0 and each["resourceLinkId"] == each["id"].rpartition("/")[2]
        for each in whole
    )
    assert ask(limit=1) == whole
    assert len(httpx.get(base, params={"limit": 1}, headers=headers).json()) == 1
    for name in ("resource_id", "resource_link_id"):
        field = {"resource_id": "resourceId", "resource_link_id": "resourceLinkId"}[name]
        assert ask(**{name: whole[1][field]}) == [whole[1]]
        assert ask(**{name: "of-nobody"}) == []
    assert ask(tag="quiz") == []
    assert [ask(limit=odd) for odd in ("0", "-1", "x", "9" * 30)] == [whole] * 4
    results = ask(f"{whole[0]['id']}/results")
    assert len(results) >= 4
    assert all(
        each["scoreOf"] == whole[0]["id"] and 0 <= each["resultScore"] <= each["resultMaximum"]
        for each in results
    )
    assert ask(f"{whole[0]['id']}/results", user_id=results[0]["userId"]) == results[:1]
    assert ask(f"{whole[0]['id']}/results", user_id="of-nobody") == []
    refused = httpx.get(base, headers={"Authorization": f"Bearer {_publisher_token(world)}"})
    assert (refused.status_code, "lacks the scope" in refused.json()["detail"]) == (403, True)


def test_repeated_and_disordered_reports_end_at_the_newest(
    world: World, venn: VennPair, live: tuple[Sides, str]
) -> None:
    sides, pairing = live
    placement = at_service.placement_id(world, pairing, OTHER)
    learner = at_service.learner_sub(world, sides.context_id, LEARNERS[0].email)
    url = f"{world.url('vennpair')}/lti/platform/pairings/{pairing}/lineitems/{placement}/scores"
    headers = {"Authorization": f"Bearer {_publisher_token(world)}", "Content-Type": MEDIA_SCORE}
    begun = datetime(2027, 3, 3, 20, 0, tzinfo=UTC)
    reports = [
        write_score(Score(learner, begun + timedelta(minutes=minute), Decimal(minute), Decimal(20)))
        for minute in range(10)
    ] * 3
    random.Random(7).shuffle(reports)
    before = venn.relay(pairing)["received"]
    with ThreadPoolExecutor(4) as threads:
        answers = list(
            threads.map(
                lambda report: httpx.post(url, json=report, headers=headers).status_code, reports
            )
        )
    assert set(answers) == {204}
    settled(venn, pairing, 7)
    assert venn.relay(pairing)["received"] - before == 10
    cell = next(cell for cell in venn.scores(pairing) if cell["item"] == OTHER)
    assert cell["sent"] == "9"
    for document, status in (
        ({"userId": "x"}, 400),
        (reports[0] | {"userId": str(uuid.uuid4())}, 404),
        (reports[0] | {"scoreGiven": "NaN"}, 400),
    ):
        assert httpx.post(url, json=document, headers=headers).status_code == status
    assert (
        httpx.post(
            url, json=reports[0], headers=headers | {"Content-Type": "application/json"}
        ).status_code
        == 415
    )
    good = json.dumps(reports[0] | {"scoreGiven": 7})
    hostile = [
        good.replace(": 7", f": {number}")
        for number in (
            "1e999999999",
            "-1e-999999999",
            "1e15",
            "9" * 5_000,
            '"1_0"',
            '"\u0663"',
            "true",
            "[7]",
        )
    ]
    hostile += [
        json.dumps(reports[0] | {"timestamp": time})
        for time in (
            "0001-01-01T00:00:00+14:00",
            "9999-12-31T23:59:59-12:00",
            "2027-03-03T20:00:00",
            "soon",
            1,
        )
    ]
    hostile += [
        "{",
        "[]",
        '"x"',
        "[" * 100_000,
        good.replace('"scoreMaximum": 20', '"scoreMaximum": 0'),
    ]
    assert [httpx.post(url, content=body, headers=headers).status_code for body in hostile] == [
        400
    ] * len(hostile)
    assert venn.relay(pairing)["received"] - before == 10
    assert next(cell for cell in venn.scores(pairing) if cell["item"] == OTHER)["sent"] == "9"
