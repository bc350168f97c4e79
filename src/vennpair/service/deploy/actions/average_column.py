"""A total column: made in the gradebook, computed from the publisher's scores, offered as a
file.
"""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.deploy.dates import in_zone
from vennpair.core.reconcile.report.disarming import disarmed
from vennpair.core.relay.totals import Counting, Method, Missing, Total, Weighting, total
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.connect.models import User
from vennpair.service.content.models import Item
from vennpair.service.deploy.actions.take_back import HEADER
from vennpair.service.deploy.models import AverageColumn
from vennpair.service.deploy.step_handlers import TAG
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.actions.match_learners import learners_by_account
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.grades import LineItem


@dataclass(frozen=True, slots=True)
class Row:
    """One learner's total with its arithmetic."""

    learner: Learner
    total: Total


def make_average(pairing: Pairing, asked: dict[str, Any], actor: User) -> AverageColumn:
    """Make the column in the gradebook, where the platform lets tools make columns; else it is
    offered as a file only.

    ``asked``: the fields of AverageColumn that a person chooses, with an ``id`` where it must be
    found again after a kill. Raises Refused, OutsideError.
    """
    require_instructor(actor, pairing.shell)
    made = AverageColumn(pairing=pairing, **asked)
    made.items = [str(each) for each in made.items]
    chosen, count = (
        pairing.items.filter(pk__in=made.items, kind="graded", gone=False),
        len(items_of(made)),
    )
    if chosen.count() != len(set(made.items)) or not count:
        raise Refused(
            "unknown_item",
            "A total is made of graded items; some of the chosen are not, or none is chosen.",
            "Choose graded items, or categories that hold some.",
            422,
        )
    _require_weights(made)
    if v.SCOPE_LINE_ITEM in pairing.shell.scopes:
        wanted = LineItem(
            made.title, made.points.normalize(), resource_id=f"average-{made.pk}", tag=TAG
        )
        made.column_url = (
            shell_gateway(pairing.shell).ensure_line_item(pairing.shell.lineitems_url, wanted).id
        )
    with transaction.atomic():
        made.save()
        record(
            "average.made",
            f"The column '{made.title}' shows a total of {many(count, 'item')}, in"
            f" {made.points.normalize():f} points.",
            pairing=pairing,
            actor=actor,
            after={"items": count, "weighting": made.weighting},
        )
    return made


def remove_average(made: AverageColumn, actor: User) -> None:
    """Remove the column, as long as it holds no score. Raises Refused, OutsideError."""
    pairing = made.pairing
    require_instructor(actor, pairing.shell)
    if made.column_url:
        gateway = shell_gateway(pairing.shell)
        held = _held(gateway, made.column_url)
        if held:
            raise Refused(
                "has_scores",
                f"The column '{made.title}' holds {many(held, 'score')}, so it stays.",
                "Remove it in the gradebook, if nobody needs its scores.",
                409,
            )
        gateway.remove_line_item(made.column_url)
    with transaction.atomic():
        AverageColumn.objects.filter(pk=made.pk).delete()
        record(
            "average.removed",
            f"The column '{made.title}' with a total was removed; it held no score.",
            pairing=pairing,
            actor=actor,
        )


def _held(gateway: PlatformGateway, column: str) -> int:
    """Return how many scores a column holds; none where it is gone. Raises OutsideError."""
    try:
        return sum(each.score is not None for each in gateway.results(column))
    except OutsideError as error:
        if error.failure.code == "gone":
            return 0
        raise


def _require_weights(made: AverageColumn) -> None:
    if made.weighting != Weighting.CATEGORIES:
        return
    lost = sorted({each.category for each in items_of(made)} - set(made.weights))
    if lost or not any(Decimal(each) for each in made.weights.values()):
        raise Refused(
            "weights_missing",
            "These categories have no weight:"
            f" {', '.join(each or '(none)' for each in lost) or 'all weigh nothing'}.",
            "Give every category of the chosen items a weight; 0 leaves it out.",
            422,
        )


def items_of(made: AverageColumn) -> list[Item]:
    """Return the graded items that count, in the publisher's order."""
    return list(
        Item.objects.filter(
            Q(pk__in=made.items) | Q(category__in=made.categories),
            pairing=made.pairing,
            kind="graded",
            gone=False,
        )
        .exclude(line_item="")
        .order_by("position", "pk")
    )


def method_of(made: AverageColumn) -> Method:
    """Return how it is computed."""
    weights = {name: Decimal(weight) for name, weight in made.weights.items()}
    return Method(
        made.points, Weighting(made.weighting), weights, Missing(made.missing), made.places
    )


def averages(made: AverageColumn) -> list[Row]:
    """Compute every learner's total from the publisher's scores now. Raises OutsideError."""
    pairing = made.pairing
    items = {item.line_item: item for item in items_of(made)}
    counting = [
        Counting(
            str(item.pk),
            item.shown_title,
            item.points or Decimal(0),
            _due(item, pairing.shell.zone),
            item.category,
        )
        for item in items.values()
    ]
    who = learners_by_account(pairing)
    scores: dict[Any, dict[str, Decimal]] = {}
    excused: dict[Any, set[str]] = {}
    for result in publisher_gateway(pairing.course.publisher).results(pairing.course.sourced_id):
        learner, item = who.get(result.student), items.get(result.line_item)
        if learner is None or item is None:
            continue
        if result.score_status == "exempt":
            excused.setdefault(learner.pk, set()).add(str(item.pk))
        elif result.score is not None:
            scores.setdefault(learner.pk, {})[str(item.pk)] = result.score
    now, method = timezone.now(), method_of(made)
    roster = pairing.shell.learners.filter(active=True).order_by("family_name", "given_name", "pk")
    return [
        Row(
            each,
            total(
                counting, scores.get(each.pk, {}), method, now, frozenset(excused.get(each.pk, ()))
            ),
        )
        for each in roster
    ]


def _due(item: Item, zone: str) -> str:
    """Return when an item is due in this shell: as it was deployed, else as the publisher says."""
    placement = getattr(item, "placement", None)
    return (placement.due_at if placement is not None else "") or in_zone(item.due_at, zone)


def as_file(made: AverageColumn) -> str:
    """Return the totals as a tidy table, to be uploaded where the platform takes files.

    Raises OutsideError.
    """
    target = io.StringIO()
    writer = csv.writer(target)
    writer.writerow(HEADER)
    for row in averages(made):
        learner = row.learner
        score = "" if row.total.score is None else f"{row.total.score:f}"
        writer.writerow(
            [
                *map(disarmed, (learner.number or learner.subject, learner.email, learner.name)),
                disarmed(made.title),
                score,
                f"{made.points.normalize():f}",
                "",
            ]
        )
    return target.getvalue()
