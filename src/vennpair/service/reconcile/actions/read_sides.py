"""Read both sides of a pairing as they are now, columns in parallel, and what was sent."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from vennpair.core.reconcile.cells import Mark
from vennpair.core.reconcile.facts import Person, PlacedItem, PublisherScore, SentFact
from vennpair.core.relay.decide import counting
from vennpair.core.relay.rules import Counts, Rule
from vennpair.service.connect.outside import publisher_gateway
from vennpair.service.deploy.models import Placement
from vennpair.service.pair.actions.match_learners import own_students, subject_of
from vennpair.service.pair.actions.refresh_roster import refresh_roster
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import LearnerMatch, Pairing
from vennpair.service.relay.actions.release import BY_HAND, BY_TIME
from vennpair.service.relay.claiming import reports_of
from vennpair.service.relay.models import Cell
from vennpair.service.relay.rules_of import Placed, placed_with_rules
from vennpair.standards.lti.grades import LineItem, Result
from vennpair.standards.oneroster import objects as o
from vennpair.standards.outline import Node

IN_FLIGHT = 8


@dataclass(slots=True)
class Sides:
    """Everything that a comparison needs, as plain values."""

    items: list[PlacedItem] = field(default_factory=list)
    publisher: list[Person] = field(default_factory=list)
    shell: list[Person] = field(default_factory=list)
    extra_columns: list[str] = field(default_factory=list)
    other_links: int = 0


def read_sides(pairing: Pairing, tell: Callable[[str], None]) -> Sides:
    """Read both sides; ``tell`` is called before each part. Raises OutsideError."""
    tell("reading the roster")
    learners = refresh_roster(pairing.shell)
    tell("reading the publisher")
    gateway, class_id = publisher_gateway(pairing.course.publisher), pairing.course.sourced_id
    confirmed = dict(LearnerMatch.objects.filter(course=pairing.course).values_list("student", "learner_id"))
    students = own_students(pairing)
    line_items, results = {each.sourced_id: each for each in gateway.line_items(class_id)}, gateway.results(class_id)
    tell("reading the gradebook")
    platform = shell_gateway(pairing.shell)
    columns = {each.id: each for each in platform.line_items(pairing.shell.lineitems_url)}
    nodes = platform.outline(pairing.shell.outline_url) if pairing.shell.outline_url else []
    placements = list(Placement.objects.filter(pairing=pairing, state=Placement.State.PLACED).exclude(column_url="").select_related("item").order_by("item__position", "pk"))
    there = [each.column_url for each in placements if each.column_url in columns]
    with ThreadPoolExecutor(IN_FLIGHT) as threads:
        gradebook = dict(zip(there, threads.map(platform.results, there), strict=True))
    tell("comparing")
    keys = {str(each.pk) for each in learners}
    sides = Sides(
        publisher=[Person(each.sourced_id, f"{each.given_name} {each.family_name}".strip(), each.email, each.identifier, str(confirmed.get(each.sourced_id) or subject_of(each, keys))) for each in students],
        shell=[Person(each.subject, each.name, each.email, each.number, str(each.pk)) for each in learners],
    )
    scores = _publisher_scores(results, line_items)
    rules = placed_with_rules(pairing)
    sent, chosen = _sent_facts(pairing, rules)
    sides.items = [_placed(each, rules[each.pk].rule, line_items, columns, gradebook, scores, sent, chosen) for each in placements]
    ours = {each.column_url for each in placements} | set(pairing.averages.values_list("column_url", flat=True))
    sides.extra_columns = [column.label for url, column in columns.items() if url not in ours]
    sides.other_links = _other_links(nodes, pairing)
    return sides


def _publisher_scores(results: Sequence[o.Result], line_items: dict[str, o.LineItem]) -> dict[str, dict[str, tuple[Decimal, Decimal | None, str]]]:
    found: dict[str, dict[str, tuple[Decimal, Decimal | None, str]]] = defaultdict(dict)
    for result in results:
        line_item = line_items.get(result.line_item)
        if line_item is not None and result.score is not None:
            found[result.line_item][result.student] = (result.score, line_item.maximum, result.score_date)
    return found


def _sent_facts(pairing: Pairing, rules: dict[Any, Placed]) -> tuple[dict[str, dict[str, SentFact]], dict[str, dict[str, PublisherScore]]]:
    """Return by placement what was sent, and what counts by a rule of ours; both by the shell's key of a learner.

    Where an instructor chose which attempt counts, the ledger says what that is: the publisher's own number follows its own rule.
    """
    found: dict[str, dict[str, SentFact]] = defaultdict(dict)
    chosen: dict[str, dict[str, PublisherScore]] = defaultdict(dict)
    cells = list(Cell.objects.filter(pairing=pairing, placement__in=rules).select_related("learner"))
    reports = reports_of(pairing, {(cell.placement_id, cell.learner_id) for cell in cells})
    for cell in cells:
        mark = Mark(cell.sent_given.normalize(), cell.sent_maximum.normalize()) if cell.sent_given is not None and cell.sent_maximum is not None else None
        refused = cell.reason if cell.state == Cell.State.REFUSED else ""
        held = cell.reason if cell.state == Cell.State.HELD and cell.why in {*BY_HAND, *BY_TIME, "not_relayed"} else ""
        counts = rules[cell.placement_id].rule.counts
        counted = counting(reports[cell.placement_id, cell.learner_id], counts)
        newest = counted.given if counted else None
        found[str(cell.placement_id)][cell.learner.subject] = SentFact(mark, cell.sent_at, refused, newest, held)
        if counts is not Counts.PUBLISHER and counted is not None and newest is not None:
            chosen[str(cell.placement_id)][cell.learner.subject] = PublisherScore(Mark(newest.normalize(), counted.maximum), counted.timestamp.isoformat())
    return found, chosen


def _placed(
    placement: Placement,
    rule: Rule,
    line_items: dict[str, o.LineItem],
    columns: dict[str, LineItem],
    gradebook: dict[str, list[Result]],
    scores: dict[str, dict[str, tuple[Decimal, Decimal | None, str]]],
    sent: dict[str, dict[str, SentFact]],
    chosen: dict[str, dict[str, PublisherScore]],
) -> PlacedItem:
    line_item, column = line_items.get(placement.item.line_item), columns.get(placement.column_url)
    publisher = {student: PublisherScore(Mark(score, points), at) for student, (score, points, at) in scores.get(placement.item.line_item, {}).items()}
    return PlacedItem(
        placement=str(placement.pk),
        title=placement.title,
        points=line_item.maximum if line_item else placement.points,
        due_at=line_item.due_date if line_item else placement.due_date,
        column_title=column.label if column else None,
        column_points=column.score_maximum if column else None,
        column_due=column.end if column else "",
        at_publisher=line_item is not None,
        rounds=rule.places is not None,
        publisher=publisher,
        chosen=chosen.get(str(placement.pk), {}),
        gradebook={result.user_id: result.score for result in gradebook.get(placement.column_url, []) if result.score is not None},
        sent=sent.get(str(placement.pk), {}),
    )


def _other_links(nodes: Sequence[Node], pairing: Pairing) -> int:
    ours = set(Placement.objects.filter(pairing=pairing).values_list("entry_id", flat=True))
    return sum(node.kind == "lti_link" and node.id not in ours for node in nodes)
