"""The sides in memory: what the standards say holds there too, and what goes wrong is told alike."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta
from decimal import Decimal

import pytest

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.gateways.memory import MemoryPlatform, MemoryPublisher
from vennpair.standards.lti.grades import LineItem, Score
from vennpair.standards.oneroster import objects as o

AT = datetime(2027, 3, 1, 9, 0, tzinfo=UTC)
COLUMNS = "memory:/lineitems"


@pytest.fixture
def platform() -> MemoryPlatform:
    return MemoryPlatform()


def score(minutes: int, given: int | None, maximum: int = 10) -> Score:
    at = AT + timedelta(minutes=minutes)
    return Score("u1", at, None if given is None else Decimal(given), Decimal(maximum))


def test_a_score_is_scaled_and_an_older_one_changes_nothing(platform: MemoryPlatform) -> None:
    column = platform.make_line_item(COLUMNS, LineItem("Quiz", Decimal(20), resource_id="q"))
    platform.send_score(column.id, score(5, 8))
    platform.send_score(column.id, score(1, 2))
    assert [cell.score for cell in platform.results(column.id)] == [Decimal(16)]
    assert platform.results(column.id, "u2") == []
    platform.type_over(column.id, "u1", None)
    assert [cell.score for cell in platform.results(column.id)] == [None]


def test_a_column_is_made_once_found_again_and_gone_when_it_is(platform: MemoryPlatform) -> None:
    wanted = LineItem("Quiz", Decimal(20), resource_id="q")
    first, again = (platform.ensure_line_item(COLUMNS, wanted) for _ in range(2))
    assert first == again == platform.line_item(first.id)
    platform.change_line_item(replace(first, label="Quiz 1"))
    assert platform.line_items(COLUMNS)[0].label == "Quiz 1"
    platform.remove_line_item(first.id)
    platform.remove_line_item(first.id)
    with pytest.raises(OutsideError) as caught:
        platform.send_score(first.id, score(1, 2))
    assert (caught.value.failure.code, caught.value.failure.status) == ("gone", 404)


def test_an_outline_keeps_order_keys_and_versions(platform: MemoryPlatform) -> None:
    folder = platform.make_folder("", "Week 1", "k1")
    one = platform.make_entry("", "lti_link", "k2", title="One", folder=folder.id)
    two = platform.make_entry("", "page", "k3", title="Two", folder=folder.id)
    assert platform.make_entry("", "lti_link", "k2", title="One", folder=folder.id) == one
    platform.put_in_order("", folder.id, [two.id, one.id])
    rows = [(node.title, node.depth) for node in platform.outline("")]
    assert rows == [("Week 1", 0), ("Two", 1), ("One", 1)]
    changed = platform.change_node("", one, "k4", title="First")
    with pytest.raises(OutsideError, match="meantime"):
        platform.change_node("", one, "k5", title="Late")
    assert platform.nodes[one.id] == changed
    platform.remove_node("", folder)
    assert platform.outline("") == []


def test_trouble_is_told_as_by_a_real_side_and_every_call_is_recorded() -> None:
    busy = Failure(FailureKind.LATER, "busy", "Too many calls.", "Wait.", retry_after=2)
    press = MemoryPublisher(trouble=lambda call: busy if call == "results" else None)
    press.items["c1"] = [o.LineItem("i1", "Quiz", "c1", maximum=Decimal(10))]
    assert [item.title for item in press.line_items("c1")] == ["Quiz"]
    with pytest.raises(OutsideError) as caught:
        press.results("c1")
    assert caught.value.failure is busy
    assert press.calls == ["line_items", "results"]
    with pytest.raises(OutsideError, match="does not offer"):
        press.titles()


def test_changed_results_come_by_age_with_the_deleted_ones() -> None:
    press = MemoryPublisher()
    old, new = (
        o.Result(name, "i1", "s1", Decimal(1), changed=at, deleted=name == "new")
        for name, at in (("old", "2027-03-01T00:00:00Z"), ("new", "2027-03-02T00:00:00Z"))
    )
    press.scores["c1"] = [new, old]
    assert press.changed_results("c1", "") == [old, new]
    assert press.changed_results("c1", "2027-03-02") == [new]
    assert press.results("c1") == [old]
