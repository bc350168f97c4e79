"""Two thousand scores between sides that share no code with ours: faults on one, repeats and
disorder on the other.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from fractions import Fraction
from typing import Any

import httpx
import pytest
from tools.world import at_service
from tools.world.hold import until
from tools.world.world import World

from tests.service.strict_grades import StrictGradebook, StrictReporter
from vennpair.client import VennPair

LEARNERS, ITEMS = 60, 20


@pytest.fixture(scope="module")
def sides(world: World) -> Iterator[tuple[StrictGradebook, StrictReporter, dict[str, Any]]]:
    platform, tool = StrictGradebook(LEARNERS, ITEMS, trouble=60), StrictReporter()
    with world.administrator() as admin:
        link = admin.invite_platform("Strict Gradebook")["link"]
        page = httpx.get(
            link,
            params={
                "openid_configuration": f"{platform.url}/.well-known/openid-configuration",
                "registration_token": platform.token,
            },
            timeout=30,
        )
        assert page.status_code == 200, page.text
        assert (
            httpx.get(admin.invite_publisher(f"{tool.url}/start")["open"], timeout=30).status_code
            == 200
        )
    made = at_service.lay_live_pairing(
        world, platform.url, platform.course, "HYD 210-STRICT", tool.name, platform.columns
    )
    yield platform, tool, made
    platform.close()
    tool.close()


def test_more_than_a_thousand_scores_end_right_whatever_fails(
    world: World, venn: VennPair, sides: tuple[StrictGradebook, StrictReporter, dict[str, Any]]
) -> None:
    platform, tool, made = sides
    base = f"{world.url('vennpair')}/lti/platform/pairings/{made['pairing']}/lineitems"
    addresses = {
        column: (f"{base}/{placement}", platform.columns[column])
        for column, placement in made["placements"].items()
    }
    reports = tool.reports(addresses, list(made["learners"].values()), seed=5)
    assert len(reports) > LEARNERS * ITEMS * 1.3
    tool.send(reports)
    until(
        lambda: venn.relay(made["pairing"])["counts"] == {"accepted": LEARNERS * ITEMS},
        lambda: (venn.relay(made["pairing"]), platform.faults, platform.complaints[:5]),
        seconds=400,
    )
    users = {pk: subject for subject, pk in made["learners"].items()}
    wanted = {
        (column, users[user]): Fraction(str(given)) / Fraction(str(points))
        for (column, user), (_, given, points) in tool.counting.items()
    }
    assert {key: share for key, (_, share) in platform.cells.items()} == wanted
    for column, (address, _) in addresses.items():
        assert tool.results(address) == {user: wanted[column, users[user]] for user in users}
    assert all(count >= 3 for count in platform.faults.values()), platform.faults
    assert platform.granted < 12 + 3 * platform.faults["expired"], (
        "tokens are shared and renewed once"
    )
    assert (platform.complaints, tool.complaints) == ([], [])
    distinct = {json.dumps(each, sort_keys=True) for each in reports}
    assert venn.relay(made["pairing"])["received"] == len(distinct)
