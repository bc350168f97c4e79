"""A total column: computed from the publisher's scores, offered as a file or kept up in the
gradebook.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.deploy.dates import shifted
from vennpair.core.reconcile.cells import Column, Mark
from vennpair.core.reconcile.numbers import decimals, without_tail
from vennpair.core.relay.totals import Counting, Method, Missing, Total, Weighting, total
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.connect.models import User
from vennpair.service.content.models import Item
from vennpair.service.deploy.actions.take_back import HEADER, safe
from vennpair.service.deploy.models import AverageColumn, AverageSent
from vennpair.service.deploy.step_handlers import TAG
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.concurrency import Outcome, run_concurrently
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked, start_job, step_done
from vennpair.service.pair.actions.match_learners import learners_by_account
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.grades import LineItem, Result, Score

SEND = "average"


@dataclass(frozen=True, slots=True)
class Row:
    """One learner's total with its arithmetic."""

    learner: Learner
    total: Total


def make_average(pairing: Pairing, asked: dict[str, Any], actor: User) -> AverageColumn:
    """Make the column in the gradebook, where the platform lets tools make columns; else it is
    offered as a file only.

    ``asked``: the fields of AverageColumn that a person chooses. Raises Refused, OutsideError.
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
    return (placement.due_date if placement is not None else "") or shifted(item.due_date, 0, zone)[
        0
    ]


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
                *map(safe, (learner.number or learner.subject, learner.email, learner.name)),
                safe(made.title),
                score,
                f"{made.points.normalize():f}",
                "",
            ]
        )
    return target.getvalue()


def start_sending(made: AverageColumn, actor: User) -> Job:
    """Start relaying the totals into their column. Raises Refused where there is none."""
    require_instructor(actor, made.pairing.shell)
    if not made.column_url:
        raise Refused(
            "no_column",
            "The platform let Venn Pair make no column for this total.",
            "Make one by hand and upload the file there.",
            409,
        )
    with transaction.atomic():
        return _begin(made, actor)


def _begin(made: AverageColumn, actor: User | None) -> Job:
    job = start_job(SEND, made.pairing, actor, 1)
    AverageColumn.objects.filter(pk=made.pk).update(sent_at=None)
    return job


def keep_up(now: datetime) -> int:
    """Start sending every total that keeps up, whose pairing is live with its relay on.

    Return how many.
    """
    due = list(
        AverageColumn.objects.filter(
            keeps_up=True, pairing__relay_on=True, pairing__state=Pairing.State.LIVE
        )
        .exclude(column_url="")
        .select_related("pairing")
    )
    for made in due:
        with transaction.atomic():
            _begin(made, None)
    return len(due)


def carry_out_sending(job: Job) -> str:
    """Send every total that the gradebook does not show, but over none that a person typed.

    Sent twice it changes nothing. Raises OutsideError.
    """
    made = (
        AverageColumn.objects.select_related(
            "pairing__shell__platform__institution", "pairing__course__publisher"
        )
        .filter(pairing=job.pairing, sent_at=None)
        .exclude(column_url="")
        .order_by("pk")
        .first()
    )
    if made is None:
        return "nothing to send"
    gateway, now, lost = shell_gateway(made.pairing.shell), timezone.now(), []
    shown = {result.user_id: result for result in gateway.results(made.column_url)}
    sent = dict(AverageSent.objects.filter(average=made).values_list("learner", "score"))
    rows, typed = _to_send(made, averages(made), shown, sent)
    job.done, job.total = 0, len(rows)
    job.save(update_fields=["done", "total"])

    def send(row: Row) -> None:
        gateway.send_score(
            made.column_url,
            Score(row.learner.subject, now, row.total.score, made.points.normalize()),
        )

    def settle(outcomes: list[Outcome[Row, None]]) -> None:
        for row, result in outcomes:
            if result is not None:
                lost.append(row.learner.name)
            elif row.total.score is not None:
                AverageSent.objects.update_or_create(
                    average=made,
                    learner=row.learner,
                    defaults={"score": row.total.score, "at": now},
                )
            step_done(job, "sending totals")

    run_concurrently(rows, send, settle, lambda: not cancel_asked(job))
    if cancel_asked(job):
        raise Cancelled(f"Stopped after {job.done} of {len(rows)} totals.")
    count = len(rows) - len(lost)
    words = f"{count} total{'' if count == 1 else 's'} sent to '{made.title}'"
    words += f", {len(lost)} refused: {', '.join(lost[:5])}" if lost else ""
    words += f"; {len(typed)} left as somebody typed them: {', '.join(typed[:5])}" if typed else ""
    with transaction.atomic():
        AverageColumn.objects.filter(pk=made.pk).update(sent_at=now)
        if rows or typed:
            record("average.sent", f"{words}.", pairing=made.pairing, actor=job.made_by)
    return words


def _to_send(
    made: AverageColumn, rows: Sequence[Row], shown: dict[str, Result], sent: dict[Any, Decimal]
) -> tuple[list[Row], list[str]]:
    """Return the totals that the gradebook does not show yet, and whose a person typed over."""
    missing: list[Row] = []
    typed: list[str] = []
    for row in rows:
        result = shown.get(row.learner.subject)
        if row.total.score is None:
            continue
        if result is None or result.score is None:
            missing.append(row)
            continue
        column, ours = (
            Column(result.maximum, decimals(without_tail(result.score)), rounds=True),
            sent.get(row.learner.pk),
        )
        if column.shows(Mark(row.total.score, made.points), result.score):
            continue
        if ours is not None and column.shows(Mark(ours, made.points), result.score):
            missing.append(row)
        else:
            typed.append(row.learner.name)
    return missing, typed
