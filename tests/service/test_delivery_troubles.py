"""Bringing content into a shell whose platform refuses, asks for patience, loses answers or is
changed meanwhile.
"""

from __future__ import annotations

import itertools
import threading
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from tools.world import at_campus, at_service
from tools.world.hold import hold
from tools.world.world import World

from tests.conftest import Sides
from tests.service.faulty import FaultyCampus
from tests.service.test_content import bring, last, read, standing, take_out
from vennpair.client import Refusal, VennPair
from vennpair.standards.cartridge.writer import Entry, write_cartridge

pytestmark = pytest.mark.timed

COUNT = itertools.count()
TITLES = [f"Page {number}" for number in range(24)]


@pytest.fixture
def faulty(world: World) -> Iterator[FaultyCampus]:
    campus = FaultyCampus(world.url("campus"))
    yield campus
    campus.close()


@pytest.fixture
def made(
    world: World,
    venn: VennPair,
    new_pairing: Callable[[str], tuple[Sides, str]],
    faulty: FaultyCampus,
    tmp_path: Path,
) -> tuple[Sides, str, str]:
    """A pairing whose shell is reached through the faulty campus, and an import of two folders with
    twelve pages each.
    """
    sides, pairing = new_pairing(f"HYD 210-T{next(COUNT)}")
    entries = []
    for number, title in enumerate(TITLES):
        if number % 12 == 0:
            entries.append(Entry(f"f{number}", f"Part {number // 12 + 1}", "folder"))
        entries.append(Entry(f"p{number}", title, "page", 1, html=f"<p>{number}</p>"))
    with (tmp_path / "pages.imscc").open("wb") as target:
        write_cartridge(target, f"pages-{sides.label}", "Pages", "en", entries)
    import_id = read(venn, pairing, tmp_path / "pages.imscc")
    at_service.reach_through(world, sides.context_id, world.url("campus"), faulty.url)
    return sides, pairing, import_id


def titles(world: World, sides: Sides) -> list[str]:
    return [row[1] for row in standing(world, sides) if "page" in row and row[0] == "1"]


def test_sixteen_are_in_flight_and_each_entry_is_written_once(
    world: World, venn: VennPair, made: tuple[Sides, str, str], faulty: FaultyCampus
) -> None:
    sides, pairing, import_id = made
    together = threading.Barrier(8, timeout=30)  # the first eight pages come in only together

    def wait_for_the_others(method: str, path: str, body: dict[str, Any]) -> None:
        if body.get("title") in TITLES[:8]:
            together.wait()

    faulty.fault = wait_for_the_others
    assert bring(venn, pairing, import_id, everything=True) == "26 made"
    assert 8 <= faulty.widest <= 16
    assert {title: count for title, count in faulty.writes.items() if title.startswith("POST")} == {
        f"POST {title}": 1 for title in ["Part 1", "Part 2", *TITLES]
    }
    assert faulty.writes["PUT order"] <= 3  # the top and the two folders
    assert titles(world, sides) == TITLES


def test_what_the_platform_refuses_is_named_and_can_be_brought_in_later(
    world: World, venn: VennPair, made: tuple[Sides, str, str], faulty: FaultyCampus
) -> None:
    sides, pairing, import_id = made
    faulty.fault = lambda method, path, body: (
        (400, {}, {"detail": "No page may be called so."})
        if body.get("title") in {"Page 3", "Part 2"}
        else None
    )
    assert bring(venn, pairing, import_id, everything=True) == "12 made, 14 not done"
    failed = {
        row["shown_title"]: row["message"]
        for row in venn.entries(pairing, import_id, state="failed")
    }
    assert "No page may be called so." in failed["Page 3"]
    assert "folder could not be made" in failed["Page 12"]
    faulty.fault = lambda method, path, body: None
    assert bring(venn, pairing, import_id, everything=True) == "14 made, 12 there already"
    assert titles(world, sides) == TITLES


def test_patience_is_had_and_nothing_is_doubled(
    world: World, venn: VennPair, made: tuple[Sides, str, str], faulty: FaultyCampus
) -> None:
    sides, pairing, import_id = made
    asked: list[str] = []
    lock = threading.Lock()

    def busy(
        method: str, path: str, body: dict[str, Any]
    ) -> tuple[int, dict[str, str], dict[str, Any]] | str | None:
        if method != "POST" or "title" not in body:
            return None
        with lock:
            asked.append(body["title"])
            turn = asked.count(body["title"])
        number = int(body["title"].split()[-1])
        if turn == 1 and number % 4 == 0:
            return 429, {"Retry-After": "1"}, {"detail": "Too many at once."}
        if turn == 1 and number % 4 == 1:
            return 500, {}, {"detail": "Something broke."}
        return "lose" if turn == 1 and number % 4 == 2 else None

    faulty.fault = busy
    assert bring(venn, pairing, import_id, everything=True) == "26 made"
    assert titles(world, sides) == TITLES


def test_a_platform_that_is_down_is_waited_for(
    world: World, venn: VennPair, made: tuple[Sides, str, str], faulty: FaultyCampus
) -> None:
    sides, pairing, import_id = made
    down = threading.Event()
    faulty.fault = lambda method, path, body: (
        (503, {}, {"detail": "Back soon."}) if down.is_set() and method == "POST" else None
    )
    plan = venn.plan_delivery(pairing, import_id, everything=True)
    assert plan["counts"]["make"] == 26
    down.set()
    delivery = venn.deliver(pairing, import_id, everything=True)
    while (job := venn.job(delivery["job"]["id"]))["state"] != "waiting":
        assert job["state"] in {"queued", "running"}
    assert "Back soon." in job["message"]
    down.clear()
    assert venn.wait(delivery["job"], seconds=60)["message"] == "26 made"
    assert titles(world, sides) == TITLES


def test_a_folder_that_is_deleted_meanwhile_and_a_second_click(
    world: World, venn: VennPair, made: tuple[Sides, str, str], faulty: FaultyCampus
) -> None:
    sides, pairing, import_id = made
    with hold(world, "campus", "POST", "/entries$", after=2) as held:
        delivery = venn.deliver(pairing, import_id, everything=True)
        with pytest.raises(Refusal) as caught:
            venn.deliver(pairing, import_id, everything=True)
        assert caught.value.code == "delivery_running"
        held.wait()
        at_campus.delete_entries(world, sides.context_id, "Part 2")
    done = venn.wait(delivery["job"], seconds=60)["message"]
    assert "not done" in done
    assert "made" in bring(venn, pairing, import_id, everything=True)
    assert titles(world, sides) == TITLES


def test_undoing_meets_somebody_s_change_and_says_so(
    world: World, venn: VennPair, made: tuple[Sides, str, str], faulty: FaultyCampus
) -> None:
    sides, pairing, import_id = made
    bring(venn, pairing, import_id, everything=True, folder="Mine")
    at_campus.edit_entry(world, sides.context_id, "Page 5", body="<p>my own words</p>")
    at_campus.add_entry(world, sides.context_id, "page", "My page", folder="Part 2")
    planned = venn.plan_operation_undo(last(venn, pairing, import_id))
    stays = {row["title"]: row["why"] for row in planned if row["why"]}
    assert stays == {
        "Page 5": "it was changed in the shell since",
        "Part 1": "something else is in it",
        "Part 2": "something else is in it",
    }
    assert take_out(venn, pairing, import_id) == "23 taken out, 3 stay: see the entries"
    kept = [row[1] for row in standing(world, sides)[-7:-2]]
    assert kept == ["Mine", "Part 1", "Page 5", "Part 2", "My page"]
    told = {
        row["shown_title"]: row["message"] for row in venn.entries(pairing, import_id, state="made")
    }
    assert told["Page 5"] == "Not taken out: it was changed in the shell since."
