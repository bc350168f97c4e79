"""Read a publisher's results where it does not report automatically, from where the last reading
ended (OneRoster 1.2).
"""

from __future__ import annotations

from datetime import datetime, timedelta
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.gateways.http import OutsideError
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.connect.models import User
from vennpair.service.content.models import Item
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import AlreadyRunning, start_job
from vennpair.service.pair.actions.match_learners import learners_by_account, own_students
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.relay.actions.take_reports import (
    Account,
    in_words,
    moment_of,
    transaction_each,
)
from vennpair.service.relay.models import LedgerEntry, RelaySetting
from vennpair.standards.lti.grades import Score
from vennpair.standards.oneroster.objects import Result

PULL = "pull"
AHEAD = timedelta(hours=1)
Row = tuple[str, Account, Score]
_PROGRESS = {
    "submitted": ("Submitted", "PendingManual"),
    "partially graded": ("Submitted", "Pending"),
    "not submitted": ("Initialized", "NotReady"),
    "late": ("Completed", "FullyGraded"),
}


def start_pull(pairing: Pairing, actor: User) -> Job:
    """Start reading now; one that is under way already is returned instead."""
    require_instructor(actor, pairing.shell)
    with transaction.atomic():
        return pull_soon(pairing, actor)


def pull_soon(pairing: Pairing, actor: User | None = None) -> Job:
    """Enqueue a reading in the caller's transaction, unless one is under way."""
    try:
        return start_job(PULL, pairing, actor, 1, alone=PULL)
    except AlreadyRunning as error:
        return error.job


def carry_out_pull(job: Job) -> str:
    """Read what changed since the last reading, deletions included; read twice it changes nothing.

    Raises OutsideError.
    """
    pairing = job.pairing
    setting, _ = RelaySetting.objects.get_or_create(pairing=pairing)
    try:
        results, who = _read(pairing, setting.pull_cursor)
    except OutsideError as error:
        RelaySetting.objects.filter(pk=setting.pk).update(pull_trouble=error.failure.message[:500])
        raise
    now, rows = timezone.now(), [row for _, row in results]
    taken = transaction_each(pairing, rows, who, LedgerEntry.Via.PULL)
    # A clock that runs ahead over there must not carry the cursor past what is still to come.
    newest = max(
        (
            each.changed
            for each, _ in results
            if each.changed and moment_of(each.changed, now) <= now + AHEAD
        ),
        key=lambda text: moment_of(text, now),
        default=setting.pull_cursor,
    )
    with transaction.atomic():
        RelaySetting.objects.filter(pk=setting.pk).update(
            pull_cursor=newest[:40], pulled_at=now, pull_trouble=""
        )
        if taken.new or taken.unclaimed:
            record(
                "relay.pulled",
                f"Read from the publisher, {in_words(taken)}.",
                pairing=pairing,
                actor=job.made_by,
                after={"new": taken.new},
            )
    return in_words(taken)


def read_results(pairing: Pairing, since: str) -> tuple[list[Row], dict[str, Learner]]:
    """Return the publisher's results that changed since a moment as reports (line item, account,
    score), and which account is which learner's. Raises OutsideError.
    """
    results, who = _read(pairing, since)
    return [row for _, row in results], who


def _read(pairing: Pairing, since: str) -> tuple[list[tuple[Result, Row]], dict[str, Learner]]:
    gateway, class_id = publisher_gateway(pairing.course.publisher), pairing.course.sourced_id
    results = gateway.changed_results(class_id, since)
    students = {each.sourced_id: each for each in own_students(pairing)}
    who = learners_by_account(pairing)
    items = Item.objects.filter(pairing=pairing).exclude(line_item="")
    points, now = dict(items.values_list("line_item", "points")), timezone.now()
    rows = [
        (
            each,
            (
                each.line_item,
                _account(each, students),
                _score(each, points.get(each.line_item), now),
            ),
        )
        for each in results
        if each.student in students or each.student in who
    ]
    return rows, who


def pulls_due(now: datetime) -> list[Pairing]:
    """Return the live pairings whose results are to be read now."""
    settings = RelaySetting.objects.filter(
        pull_minutes__gt=0, pairing__state=Pairing.State.LIVE
    ).select_related("pairing")
    return [
        each.pairing
        for each in settings
        if each.pulled_at is None or now - each.pulled_at >= timedelta(minutes=each.pull_minutes)
    ]


def _account(result: Result, students: dict[str, Any]) -> Account:
    student = students.get(result.student)
    return Account(
        result.student,
        f"{student.given_name} {student.family_name}".strip() if student else "",
        student.email if student else "",
    )


def _score(result: Result, points: Decimal | None, now: datetime) -> Score:
    """Return a result as a report.

    Its own time is when it last changed: the standard's scoreDate names a day only.
    """
    when = moment_of(result.changed, moment_of(result.score_date, now))
    gone = result.deleted or result.score_status == "exempt"
    activity, grading = (
        ("Completed", "FullyGraded")
        if gone
        else _PROGRESS.get(result.score_status, ("Completed", "FullyGraded"))
    )
    given = None if gone or result.score is None or not points else result.score
    comment = "exempt" if result.score_status == "exempt" else result.comment
    return Score(
        "",
        when,
        given,
        points if given is not None else None,
        activity,
        grading
        if given is not None or gone
        else (grading if grading != "FullyGraded" else "Pending"),
        comment,
    )
