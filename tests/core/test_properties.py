"""What holds for any dates, orders, folders and courses, and not only for those of the demo."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from hypothesis import given
from hypothesis import strategies as st

from vennpair.core.deploy.dates import in_zone, proposed_shift, read_moment, same_moment, shifted
from vennpair.core.deploy.folder_guess import guess_folders
from vennpair.core.deploy.order import inserted, settled
from vennpair.core.pair.copies import ItemFacts, match_items
from vennpair.core.pair.guess import fold
from vennpair.core.reconcile.columns import fold_title
from vennpair.core.relay.timing import next_at

# Clocks that change, that change by half an hour, on another side of midnight, and never.
ZONES = st.sampled_from(
    ["America/Chicago", "Australia/Lord_Howe", "Africa/Cairo", "America/St_Johns", "Asia/Kolkata"]
)
MOMENTS = st.datetimes(datetime(2020, 1, 1), datetime(2035, 1, 1), timezones=st.just(UTC))
NAMES = st.sampled_from(
    ["Unit 1", "unit 01", "Unit 2", "Week 2: Rain", "3. Rivers", "Exam 1", "Großer Bach", ""]
)


def wall(text: str, zone: str) -> datetime:
    moment = read_moment(text)
    assert moment is not None
    return moment.astimezone(ZoneInfo(zone)).replace(tzinfo=None)


@given(MOMENTS, st.integers(-400, 400), ZONES)
def test_a_date_that_is_moved_keeps_the_hour_of_the_course_s_clock(
    moment: datetime, days: int, zone: str
) -> None:
    text = moment.isoformat()
    moved, skipped = shifted(text, days, zone)
    off = wall(moved, zone) - (wall(text, zone) + timedelta(days=days))
    assert (off != timedelta(0)) == skipped
    assert timedelta(0) <= off <= timedelta(hours=1), "an hour that is skipped becomes the next"
    assert same_moment(in_zone(moved, "UTC"), moved)
    if not skipped:
        back = wall(shifted(moved, -days, zone)[0], zone)
        assert back == wall(text, zone)


@given(MOMENTS, MOMENTS, ZONES)
def test_a_first_date_that_is_past_comes_into_the_week_ahead_on_its_weekday(
    first: datetime, now: datetime, zone: str
) -> None:
    days = proposed_shift(first.isoformat(), now, zone)
    assert days % 7 == 0
    if first >= now:
        assert days == 0
        return
    moved = read_moment(shifted(first.isoformat(), days, zone)[0])
    assert moved is not None
    assert now <= moved <= now + timedelta(days=7, hours=1), "not past still, nor a week too late"


@given(MOMENTS, MOMENTS, ZONES)
def test_a_term_s_first_week_gets_the_first_date_on_its_weekday(
    first: datetime, start: datetime, zone: str
) -> None:
    local = wall(first.isoformat(), zone).date()
    days = proposed_shift(first.isoformat(), first, zone, start.date())
    moved = local + timedelta(days=days)
    assert moved.weekday() == local.weekday()
    assert moved.isocalendar()[:2] == start.date().isocalendar()[:2]


@given(MOMENTS, st.times(), ZONES)
def test_the_next_time_of_day_is_within_a_day_and_the_clock_shows_it(
    after: datetime, clock: object, zone: str
) -> None:
    wanted = f"{clock:%H:%M}"
    found = next_at(wanted, after, zone)
    assert after <= found <= after + timedelta(days=1, hours=2)
    shown = wall(found.isoformat(), zone)
    off = shown - shown.replace(hour=int(wanted[:2]), minute=int(wanted[3:]), second=0)
    assert off == timedelta(0) or abs(off) in {timedelta(minutes=30), timedelta(hours=1)}


@given(st.lists(st.integers(0, 9), unique=True), st.lists(st.integers(0, 9), unique=True), NAMES)
def test_putting_some_after_another_loses_and_doubles_none(
    there: list[int], moving: list[int], after: str
) -> None:
    children = [str(each) for each in there]
    made = [str(each) for each in moving if str(each) in children]
    place = after or (children[len(children) // 2] if children else "start")
    found = inserted(children, made, place)
    assert sorted(found) == sorted(children)
    assert [each for each in found if each in made] == made
    rest = [each for each in children if each not in made]
    assert [each for each in found if each not in made] == rest
    if made:
        at = found.index(made[0])
        assert found[at : at + len(made)] == made, "side by side"
    order = settled(children, list(reversed(made)))
    assert [each for each in order if each in made] == list(reversed(made))
    assert [n for n, each in enumerate(order) if each not in made] == [
        n for n, each in enumerate(children) if each not in made
    ], "the others stay where they are"


@given(st.lists(NAMES, unique=True), st.lists(NAMES))
def test_each_unit_gets_one_folder_and_no_folder_two(units: list[str], titles: list[str]) -> None:
    folders = [(f"f{number}", title) for number, title in enumerate(titles)]
    found = guess_folders(units, folders)
    assert [each.unit for each in found] == units
    taken = [each.node for each in found if each.node]
    assert len(set(taken)) == len(taken)
    known = dict(folders)
    for each in found:
        assert each.folder == (known[each.node] if each.node else each.unit)
        same = [title for title in titles if fold(title) == fold(each.unit)]
        rivals = [unit for unit in units if fold(unit) == fold(each.unit)]
        if len(same) >= len(rivals):
            assert fold(each.folder) == fold(each.unit), "its own name comes first"


ITEMS = st.lists(st.tuples(st.sampled_from(["Quiz", "quiz ", "Lab", "Essay"]), NAMES), max_size=8)


def course(name: str, titles: Sequence[tuple[str, str]]) -> list[ItemFacts]:
    return [
        ItemFacts(f"{name}{place}", f"{name}{place}", title, unit, place)
        for place, (title, unit) in enumerate(titles)
    ]


@given(ITEMS, ITEMS)
def test_items_of_two_courses_are_matched_one_to_one_and_only_where_nobody_can_doubt(
    left: list[tuple[str, str]], right: list[tuple[str, str]]
) -> None:
    old, new = course("old", left), course("new", right)
    found = match_items(old, new)
    assert len(set(found.values())) == len(found)
    by_id = {each.id: each for each in (*old, *new)}

    def name(item: ItemFacts) -> tuple[str, str]:
        return fold_title(item.unit), fold_title(item.title)

    counts = [Counter(map(name, side)) for side in (old, new)]
    for each in old:
        doubt = counts[0][name(each)] != counts[1][name(each)]
        assert (each.id in found) != doubt
        if each.id in found:
            assert name(by_id[found[each.id]]) == name(each)
    assert match_items(new, old) == {other: one for one, other in found.items()}
    assert match_items(old, old) == {each.id: each.id for each in old}
