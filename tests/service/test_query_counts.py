"""How many queries a request takes: lists the same for one row and for many, and nothing more than
it is known to need. A row that is read one by one shows here, not on the first large course.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import httpx
import pytest
from tools.world import at_service
from tools.world.asked import QUERIES, operations
from tools.world.world import INSTRUCTOR, World

from tests.conftest import Sides
from tests.service.objects import Ids, address, lay_objects
from vennpair.client import VennPair

# Lists that are read whole and the most queries that each takes; all others are paged by key.
WHOLE = {
    "/accounts": 6,
    "/connections/keys": 6,
    "/me/tokens": 6,
    "/connections/health": 12,
    "/connections/platforms/card": 8,
    "/pairings/{pairing_pk}/averages": 10,
    "/pairings/{pairing_pk}/averages/{id}/rows": 16,
    "/pairings/{pairing_pk}/catalogue": 10,
    "/pairings/{pairing_pk}/exports": 10,
    "/pairings/{pairing_pk}/imports/{id}/deliveries": 10,
    "/pairings/{pairing_pk}/imports/{id}/written": 10,
    "/pairings/{pairing_pk}/learner-checks": 10,
    "/pairings/{pairing_pk}/outline": 12,
    "/pairings/{pairing_pk}/readiness": 30,
    "/search": 14,
    "/sign-in/ways": 1,
}
MORE = {"/operations": 3}  # one for each table of steps on the page
LISTS = [path.removeprefix("/api/v1") for method, path in operations() if method == "GET"]


@dataclass(frozen=True)
class Ground:
    """A pairing with three objects of each kind, and who asks."""

    pairing: str
    ids: Ids
    ask: Callable[..., httpx.Response]


@pytest.fixture(scope="module")
def ground(
    world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]
) -> Iterator[Ground]:
    _, pairing = new_pairing("HYD 210-QUERY")
    ids = [lay_objects(world, pairing, INSTRUCTOR) for _ in range(3)][-1]
    ids["tokens"] = venn.tokens()[0]["id"]
    with world.administrator() as admin:
        clients = {"me": venn, "admin": admin}
        for each in clients.values():
            each.me()  # the first request of a token notes that it is used

        def ask(path: str, **params: object) -> httpx.Response:
            who = "admin" if "/connections" in path or path.startswith("/people") else "me"
            filled = address(path, ids)
            return clients[who]._http.get(filled, params={k: str(v) for k, v in params.items()})

        yield Ground(pairing, ids, ask)


def queries(answer: httpx.Response) -> int:
    assert answer.status_code == 200, answer.text
    return int(answer.headers[QUERIES])


def fewest(ask: Callable[[], httpx.Response]) -> int:
    """Of two requests in a row: the process looks some things up again after half a minute, such
    as who may hold its pages in a frame, and that is not of the list.
    """
    return min(queries(ask()) for _ in range(2))


@pytest.mark.parametrize("path", LISTS)
def test_a_list_takes_as_many_queries_for_many_rows_as_for_one(ground: Ground, path: str) -> None:
    answer = ground.ask(path, limit=1)
    assert answer.status_code < 500, answer.text  # a page of one row needs the key of a next page
    shown = answer.json() if "json" in answer.headers.get("content-type", "") else None
    if isinstance(shown, list):
        assert fewest(lambda: ground.ask(path)) <= WHOLE[path]
    elif isinstance(shown, dict) and "results" in shown and path != "/courses":
        assert len(ground.ask(path, limit=100).json()["results"]) >= len(shown["results"])
        few = fewest(lambda: ground.ask(path, limit=1))
        many = fewest(lambda: ground.ask(path, limit=100))
        assert many <= few + MORE.get(path, 1), "rows are read one by one"
        assert many <= MOST, path


MOST = 14


@pytest.mark.parametrize("count", [1, 20])
def test_a_plan_takes_as_many_queries_for_many_items_as_for_one(
    ground: Ground, venn: VennPair, count: int
) -> None:
    items = [item["id"] for item in venn.items(ground.pairing, kind="graded")][:count]
    assert len(items) == count
    wanted = {"items": items, "dry_run": True}
    path = f"/pairings/{ground.pairing}/rollouts"
    assert fewest(lambda: venn._http.post(path, json=wanted)) <= 20


def test_a_comparison_takes_no_query_for_each_cell(
    world: World, venn: VennPair, ground: Ground, new_pairing: Callable[[str], tuple[Sides, str]]
) -> None:
    taken = []
    for label, count in (("HYD 210-QFEW", 2), ("HYD 210-QMANY", 20)):
        _, pairing = new_pairing(label)
        items = [item["id"] for item in venn.items(pairing, kind="graded") if item["due_at"]]
        venn.wait(venn.deploy(pairing, items[:count])[0]["job"])
        taken.append(at_service.queries_of_comparing(world, pairing))
    assert taken[1] <= taken[0] + 2, taken
    assert taken[1] <= 60, taken
