"""Read both sides of a pairing as they are now, all at once, and what was sent."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, field, replace
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.content.tying import likely
from vennpair.core.deploy.dates import shifted
from vennpair.core.reconcile.cells import Mark
from vennpair.core.reconcile.facts import LooseColumn, Person, PlacedItem, PublisherScore
from vennpair.core.reconcile.live import agreeing
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.content.actions.tie_picked import tie_picked
from vennpair.service.content.models import Placement
from vennpair.service.kernel.jobs.concurrency import IN_FLIGHT
from vennpair.service.pair.actions.match_learners import without_foreign
from vennpair.service.pair.actions.refresh_roster import refresh_roster
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.reconcile.people import people_of_publisher, people_of_shell
from vennpair.service.reconcile.send_history import memory_of
from vennpair.service.reconcile.uploaded_gradebook import columns_of
from vennpair.service.stored import GivenGradebook, SideSource
from vennpair.standards.lti.grades import LineItem, Result
from vennpair.standards.oneroster import objects as o
from vennpair.standards.outline import Node
from vennpair.standards.outline.gradebook import Gradebook

FROM_PUBLISHER, FROM_LEDGER = "publisher", "ledger"


@dataclass(slots=True)
class Sides:
    """Everything that a comparison needs, as plain values.

    ``sources`` says where each side was read, and when.
    """

    items: list[PlacedItem] = field(default_factory=list)
    publisher: list[Person] = field(default_factory=list)
    shell: list[Person] = field(default_factory=list)
    loose: list[LooseColumn] = field(default_factory=list)
    other_links: int = 0
    sources: list[SideSource] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class _Publisher:
    """What the publisher says; ``line_items`` None where it cannot be asked, and the ledger speaks
    for it.
    """

    students: list[o.User]
    line_items: dict[str, o.LineItem] | None
    scores: dict[str, dict[str, PublisherScore]]


@dataclass(frozen=True, slots=True)
class _Platform:
    """What the gradebook and the outline say.

    ``book`` None where the platform does not tell its categories.
    """

    columns: dict[str, LineItem]
    results: dict[str, list[Result]]
    nodes: Sequence[Node]
    book: Gradebook | None


def read_sides(
    pairing: Pairing, given: GivenGradebook | None, tell: Callable[[str], None]
) -> Sides:
    """Read both sides; ``given`` is a gradebook from a file, None where the platform is asked.
    ``tell`` is called before each part.

    Raises OutsideError, Refused.
    """
    placements = _compared(pairing)
    tell("reading the roster, the publisher and the gradebook")
    began = timezone.now()
    with ThreadPoolExecutor(IN_FLIGHT) as threads:
        asked = _ask_publisher(pairing, threads)
        shown = given or _ask_platform(pairing, threads, {each.column_url for each in placements})
        roster = refresh_roster(pairing.shell)
        tell("waiting for the publisher")
        publisher = _publisher(pairing, asked)
        tell("waiting for the gradebook")
        platform = (
            shown()
            if callable(shown)
            else _Platform(*columns_of(shown, placements, roster), (), None)
        )
    tell("comparing")
    sides = Sides(
        publisher=people_of_publisher(pairing, publisher.students, roster),
        shell=people_of_shell(roster),
    )
    if publisher.line_items is None:
        sides.publisher = list(sides.shell)
    if publisher.line_items is not None:
        _tie(pairing, placements, list(publisher.line_items.values()))
    known = {each.item.line_item for each in placements}
    free = [each for key, each in (publisher.line_items or {}).items() if key not in known]
    sides.items = [
        replace(
            _placed(each, pairing.shell.zone, publisher, platform),
            in_file=bool(given),
            likely=() if each.item.line_item else tuple(likely(each.title, each.points, free)),
        )
        for each in placements
    ]
    _remember(pairing, sides, from_ledger=publisher.line_items is None)
    sides.loose, sides.other_links = _not_ours(pairing, placements, platform)
    sides.sources = _sources(pairing, roster, publisher, given, began.isoformat())
    return sides


def _compared(pairing: Pairing) -> list[Placement]:
    """Return what is placed and has a column: with points it had one, although that is gone."""
    there = [Placement.State.PLACED, Placement.State.WRITTEN]
    placed = Placement.objects.filter(pairing=pairing, state__in=there).select_related("item")
    return [
        each
        for each in placed.order_by("item__position", "pk")
        if each.column_url or each.points is not None
    ]


def _remember(pairing: Pairing, sides: Sides, *, from_ledger: bool) -> None:
    """Let each item know what was sent for it, what was chosen, and how its column rounds."""
    agreed = agreeing(sides.items, sides.publisher, sides.shell)
    memory = memory_of(pairing, from_ledger=from_ledger, agreed=agreed)
    sides.items = [
        replace(
            each,
            rounds=memory.rounds(each.placement),
            chosen=memory.chosen.get(each.placement, {}),
            sent=memory.sent.get(each.placement, {}),
        )
        for each in sides.items
    ]


def _not_ours(
    pairing: Pairing, placements: Sequence[Placement], platform: _Platform
) -> tuple[list[LooseColumn], int]:
    """Return the columns of the gradebook that are not ours, and how many links are not."""
    ours = {each.column_url for each in placements} | set(
        pairing.averages.values_list("column_url", flat=True)
    )
    loose = [
        LooseColumn(url, column.label, column.resource_id, column.resource_link_id)
        for url, column in platform.columns.items()
        if url not in ours
    ]
    links = set(Placement.objects.filter(pairing=pairing).values_list("entry_id", flat=True))
    return loose, sum(node.kind == "lti_link" and node.id not in links for node in platform.nodes)


def _tie(pairing: Pairing, placements: Sequence[Placement], listed: Sequence[o.LineItem]) -> None:
    """Let what was picked at the publisher be known in its catalogue, as that is read now."""
    with transaction.atomic():
        tied = tie_picked(pairing, listed)
    for each in placements:
        each.item = tied.get(each.item_id, each.item)


def _ask_publisher(pairing: Pairing, threads: ThreadPoolExecutor) -> dict[str, Future[Any]]:
    if not pairing.course.publisher.oneroster_url:
        return {}
    gateway, course = publisher_gateway(pairing.course.publisher), pairing.course.sourced_id
    return {
        name: threads.submit(getattr(gateway, name), course)
        for name in ("students", "line_items", "results")
    }


def _publisher(pairing: Pairing, asked: dict[str, Future[Any]]) -> _Publisher:
    if not asked:
        return _Publisher([], None, {})
    line_items = {each.sourced_id: each for each in asked["line_items"].result()}
    scores: dict[str, dict[str, PublisherScore]] = defaultdict(dict)
    for result in asked["results"].result():
        line_item = line_items.get(result.line_item)
        if line_item is not None and result.score is not None and not result.deleted:
            scores[result.line_item][result.student] = PublisherScore(
                Mark(result.score, line_item.maximum), result.score_date, FROM_PUBLISHER
            )
    return _Publisher(without_foreign(pairing, asked["students"].result()), line_items, scores)


def _ask_platform(
    pairing: Pairing, threads: ThreadPoolExecutor, wanted: set[str]
) -> Callable[[], _Platform]:
    """Ask for everything at once; the columns that we know are read without waiting for the list of
    all.
    """
    gateway, shell = shell_gateway(pairing.shell), pairing.shell
    columns = threads.submit(gateway.line_items, shell.lineitems_url)
    outline = (
        threads.submit(gateway.outline_and_offers, shell.outline_url) if shell.outline_url else None
    )

    def read() -> _Platform:
        found = {each.id: each for each in columns.result()}
        results = {
            url: threads.submit(gateway.results, url) for url in sorted(wanted & found.keys())
        }
        nodes, offers = outline.result() if outline else ([], frozenset())
        book = gateway.gradebook(shell.outline_url) if "gradebook" in offers else None
        return _Platform(found, {url: each.result() for url, each in results.items()}, nodes, book)

    return read


def _placed(
    placement: Placement, zone: str, publisher: _Publisher, platform: _Platform
) -> PlacedItem:
    asked = publisher.line_items is not None
    line_item, column = (
        (publisher.line_items or {}).get(placement.item.line_item),
        platform.columns.get(placement.column_url),
    )
    return PlacedItem(
        placement=str(placement.pk),
        title=placement.title,
        points=line_item.maximum if line_item and line_item.maximum else placement.points,
        due_at=shifted(line_item.due_at, placement.shift_days, zone)[0]
        if line_item and line_item.due_at
        else placement.due_at,
        category=placement.category,
        opened=placement.state != Placement.State.WRITTEN or bool(placement.column_url),
        column_title=column.label if column else None,
        column_points=column.score_maximum if column else None,
        column_due=column.end if column else "",
        column_category=platform.book.title_of(placement.column_url)
        if platform.book and column
        else None,
        resource_link=placement.resource_link_id,
        at_publisher=line_item is not None or not asked or not placement.item.line_item,
        told_by="publisher" if line_item else ("nobody" if asked else "ledger"),
        publisher=publisher.scores.get(placement.item.line_item, {}),
        gradebook={
            result.user_id: result.score
            for result in platform.results.get(placement.column_url, [])
            if result.score is not None
        },
    )


def _sources(
    pairing: Pairing,
    roster: Sequence[Learner],
    publisher: _Publisher,
    given: GivenGradebook | None,
    at: str,
) -> list[SideSource]:
    platform, theirs = pairing.shell.platform.name, pairing.course.publisher.name
    told = (
        "its results (OneRoster)"
        if publisher.line_items is not None
        else "what it reported (the ledger), as its results cannot be read"
    )
    shown = (
        f"its columns and {len(roster)} members (Assignment and Grade Services, Names and Roles)"
    )
    if given:
        shown = f"the file {given['name']}, and its {len(roster)} members (Names and Roles)"
    return [
        SideSource(side="publisher", name=theirs, how=told, at=at),
        SideSource(side="gradebook", name=platform, how=shown, at=at),
        SideSource(
            side="sent", name="Venn Pair", how="what was sent and accepted (the ledger)", at=at
        ),
    ]
