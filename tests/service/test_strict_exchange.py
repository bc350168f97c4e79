"""Two thousand scores between sides that share no code with ours: faults on one, repeats and
disorder on the other.
"""

from __future__ import annotations

import json
import time
from collections.abc import Iterator
from fractions import Fraction
from typing import Any

import httpx
import pytest
from tools.house.world import World

from tests.service.strict_grades import StrictGradebook, StrictReporter
from vennpair.client import VennPair

LEARNERS, ITEMS = 100, 20

FILL = """
import json
from vennpair.service.connect.models import Platform, Publisher, User
from vennpair.service.content.models import Item
from vennpair.service.deploy.models import Placement
from vennpair.service.pair.models import *
from vennpair.service.pair.actions.refresh_roster import refresh_roster
platform = Platform.objects.get(issuer='{url}')
at = '{url}/api/course-77'
user = User.objects.get(username='maren.holt@tarnfield.example')
shell = Shell.objects.create(platform=platform, context_id='course-77', title='Strict', label='HYD 210-STRICT', timezone='America/Chicago', lineitems_url=at + '/lineitems', memberships_url=at + '/members')
course = HomeworkCourse.objects.create(publisher=Publisher.objects.get(name='Strict Reports'), sourced_id='c-strict', title='Strict', code='HYD 210-STRICT')
Consent.objects.create(shell=shell, user=user)
ShellRole.objects.create(shell=shell, user=user, role='instructor')
pairing = Pairing.objects.create(shell=shell, course=course, state='live', relay_on=True, made_by=user)
refresh_roster(shell)
made = {{}}
for column, points in json.loads('{columns}').items():
    item = Item.objects.create(pairing=pairing, key=column, title=column, shown_title=column, kind='graded', position=len(made), points=points, line_item=column)
    placed = Placement.objects.create(pairing=pairing, item=item, state='placed', title=column, points=points, column_url=f'{{at}}/lineitems/{{column}}')
    made[column] = str(placed.pk)
print('MADE' + json.dumps(dict(pairing=str(pairing.pk), placements=made, learners=dict((each.subject, str(each.pk)) for each in shell.learners.all()))))
"""


@pytest.fixture(scope="module")
def sides(world: World) -> Iterator[tuple[StrictGradebook, StrictReporter, dict[str, Any]]]:
    platform, tool = StrictGradebook(LEARNERS, ITEMS, trouble=90), StrictReporter()
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
    told = world.manage(
        "vennpair",
        "shell",
        "-v",
        "0",
        "-c",
        FILL.format(url=platform.url, columns=json.dumps(platform.columns)),
    )
    yield platform, tool, json.loads(told.rpartition("MADE")[2])
    platform.close()
    tool.close()


def test_two_thousand_scores_end_right_whatever_fails(
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
    deadline = time.monotonic() + 240
    while venn.relay(made["pairing"])["counts"] != {"accepted": LEARNERS * ITEMS}:
        assert time.monotonic() < deadline, (
            venn.relay(made["pairing"]),
            platform.faults,
            platform.complaints[:5],
        )
        time.sleep(1)
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
