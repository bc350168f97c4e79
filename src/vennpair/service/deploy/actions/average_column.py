"""One manual column with an average, for shells that show only the course's home link."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.deploy.average import Counting, Share, average
from vennpair.core.deploy.dates import shifted
from vennpair.service.activity.audit import record
from vennpair.service.api.refusals import Refused
from vennpair.service.connect.outside import publisher_gateway
from vennpair.service.content.models import Item
from vennpair.service.deploy.actions.take_back import HEADER, safe
from vennpair.service.deploy.carrying import TAG
from vennpair.service.deploy.models import AverageColumn
from vennpair.service.ops.flight import Outcome, fly
from vennpair.service.ops.models import Job
from vennpair.service.ops.running import cancel_asked, start_job, step_done
from vennpair.service.pair.actions.match_learners import learners_by_account
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.grades import LineItem, Score

SEND = "average"


@dataclass(frozen=True, slots=True)
class Row:
    """One learner's average, None where nothing counts yet, with its arithmetic."""

    learner: Learner
    score: Decimal | None
    shares: tuple[Share, ...]


def make_average(pairing: Pairing, title: str, points: Decimal, items: Sequence[Any], actor: Any) -> AverageColumn:
    """Make the column in the gradebook, where the platform lets tools make columns; else it is offered as a file only. Raises Refused, OutsideError."""
    require_instructor(actor, pairing.shell)
    counting = list(pairing.items.filter(pk__in=items, kind="graded", gone=False, points__gt=0))
    if not counting or len(counting) != len(set(map(str, items))):
        raise Refused("unknown_item", "An average is made of graded items that have points; some of the chosen are not.", "Choose graded items with points.", 422)
    made = AverageColumn(pairing=pairing, title=title, points=points, items=[str(each.pk) for each in counting])
    if v.SCOPE_LINE_ITEM in pairing.shell.scopes:
        wanted = LineItem(title, points.normalize(), resource_id=f"average-{made.pk}", tag=TAG)
        made.column_url = shell_gateway(pairing.shell).ensure_line_item(pairing.shell.lineitems_url, wanted).id
    with transaction.atomic():
        made.save()
        record("average.made", f"The column '{title}' shows the average of {len(counting)} items, in {points:f} points.", pairing=pairing, actor=actor, after={"items": len(counting)})
    return made


def averages(made: AverageColumn) -> list[Row]:
    """Compute every learner's average from the publisher's scores now. Raises OutsideError."""
    pairing = made.pairing
    items = {item.line_item: item for item in Item.objects.filter(pk__in=made.items).exclude(line_item="")}
    zone = pairing.shell.zone
    counting = [Counting(str(item.pk), item.shown_title, item.points or Decimal(1), shifted(item.due_date, 0, zone)[0]) for item in sorted(items.values(), key=lambda each: each.position)]
    gateway = publisher_gateway(pairing.course.publisher)
    who = learners_by_account(pairing)
    scores: dict[Any, dict[str, Decimal]] = {}
    for result in gateway.results(pairing.course.sourced_id):
        learner, item = who.get(result.student), items.get(result.line_item)
        if learner is not None and item is not None and result.score is not None:
            scores.setdefault(learner.pk, {})[str(item.pk)] = result.score
    now = timezone.now()
    return [Row(each, *average(counting, scores.get(each.pk, {}), made.points, now)) for each in pairing.shell.learners.filter(active=True).order_by("family_name", "given_name", "pk")]


def as_file(made: AverageColumn) -> str:
    """Return the averages as a tidy table, to be uploaded where the platform takes files. Raises OutsideError."""
    target = io.StringIO()
    writer = csv.writer(target)
    writer.writerow(HEADER)
    for row in averages(made):
        learner = row.learner
        score = "" if row.score is None else f"{row.score:f}"
        writer.writerow([*map(safe, (learner.number or learner.subject, learner.email, learner.name)), safe(made.title), score, f"{made.points.normalize():f}", ""])
    return target.getvalue()


def start_sending(made: AverageColumn, actor: Any) -> Job:
    """Start relaying the averages into their column. Raises Refused where there is none."""
    require_instructor(actor, made.pairing.shell)
    if not made.column_url:
        raise Refused("no_column", "The platform let Venn Pair make no column for this average.", "Make one by hand and upload the file there.", 409)
    with transaction.atomic():
        job = start_job(SEND, made.pairing, actor, 1, "waits for a worker")
        AverageColumn.objects.filter(pk=made.pk).update(sent_at=None)
    return job


def carry_out_sending(job: Job) -> str:
    """Send every learner's average; sent twice it changes nothing. Raises OutsideError."""
    made = AverageColumn.objects.select_related("pairing__shell__platform__institution", "pairing__course__publisher").filter(pairing=job.pairing, sent_at=None).exclude(column_url="").order_by("pk").first()
    if made is None:
        return "nothing to send"
    rows = [row for row in averages(made) if row.score is not None]
    job.done, job.total = 0, len(rows)
    job.save(update_fields=["done", "total"])
    gateway, now, lost = shell_gateway(made.pairing.shell), timezone.now(), []

    def send(row: Row) -> None:
        gateway.send_score(made.column_url, Score(row.learner.subject, now, row.score, made.points.normalize()))

    def settle(outcomes: list[Outcome[Row, None]]) -> None:
        for row, result in outcomes:
            if result is not None:
                lost.append(row.learner.name)
            step_done(job, "sending averages")

    fly(rows, send, settle, lambda: not cancel_asked(job))
    with transaction.atomic():
        AverageColumn.objects.filter(pk=made.pk).update(sent_at=now)
        words = f"{len(rows) - len(lost)} averages sent to '{made.title}'" + (f", {len(lost)} refused: {', '.join(lost[:5])}" if lost else "")
        record("average.sent", f"{words}.", pairing=made.pairing, actor=job.made_by)
    return words
