"""Send totals into their column, when asked or kept up; over none that a person typed."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.reconcile.cells import Column, Mark
from vennpair.core.reconcile.numbers import decimals, shortest, without_tail
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.connect.models import User
from vennpair.service.deploy.actions.average_column import Row, averages
from vennpair.service.deploy.models import AverageColumn, AverageSent, Step
from vennpair.service.kernel.apart import apart
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked
from vennpair.service.operations.actions.begin import begin
from vennpair.service.operations.runner import Record, StepRunner
from vennpair.service.operations.steps import stop_rest
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.stored import TotalStep
from vennpair.standards.lti.grades import Result, Score

SEND = "average"


def start_sending(made: AverageColumn, actor: User) -> Job:
    """Start sending the totals into their column. Raises Refused where there is none."""
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
    return len(apart(due, lambda made: _begin(made, None), "keeping a total up"))


def _begin(made: AverageColumn, actor: User | None) -> Job:
    job = begin(SEND, made.pairing, actor, 1)
    AverageColumn.objects.filter(pk=made.pk).update(sent_at=None)
    return job


def carry_out_sending(job: Job) -> str:
    """Send every total that the gradebook does not show.

    What it will send is written down at its first start. Sent twice it changes nothing. Raises
    OutsideError, Cancelled.
    """
    made = _column_of(job)
    if made is None:
        return "nothing to send"
    gateway = shell_gateway(made.pairing.shell)
    if not job.deploy_steps.exists():
        _plan(job, made, gateway)
    running = _TotalsRunner(job, made, gateway)
    running.run(running.planned())
    if cancel_asked(job):
        stop_rest(job.deploy_steps.all())
        raise Cancelled(f"Stopped after {job.done} of {job.total} totals.")
    words = _words(job, made)
    with transaction.atomic():
        AverageColumn.objects.filter(pk=made.pk).update(sent_at=timezone.now())
        if job.deploy_steps.exists():
            record("average.sent", f"{words}.", pairing=made.pairing, actor=job.made_by)
    return words


def _column_of(job: Job) -> AverageColumn | None:
    """Return the column that the job's steps are for, else the next one of its pairing whose
    totals are to be sent.
    """
    columns = AverageColumn.objects.filter(pairing=job.pairing).exclude(column_url="")
    first = job.deploy_steps.first()
    asked = columns.filter(pk=first.facts["column"]) if first else columns.filter(sent_at=None)
    return (
        asked.select_related("pairing__shell__platform__institution", "pairing__course__publisher")
        .order_by("pk")
        .first()
    )


class _TotalsRunner(StepRunner[Step]):
    """Totals on their way into one column."""

    def __init__(self, job: Job, made: AverageColumn, gateway: PlatformGateway) -> None:
        super().__init__(job, job.deploy_steps.all())
        self.made, self.gateway = made, gateway

    def does(self, step: Step) -> str:
        """Say what is done."""
        return f"sending the total of {step.title}"

    def call(self, step: Step) -> Record:
        """Send one total."""
        facts: TotalStep = step.facts
        now = timezone.now()
        given, maximum = Decimal(facts["given"]), Decimal(facts["maximum"])
        self.gateway.send_score(self.made.column_url, Score(facts["subject"], now, given, maximum))

        def note() -> None:
            AverageSent.objects.update_or_create(
                average=self.made,
                learner_id=facts["learner"],
                defaults={"score": given, "at": now},
            )

        return note


def _plan(job: Job, made: AverageColumn, gateway: PlatformGateway) -> None:
    """Write down which totals are sent, and which are left as a person typed over them."""
    shown = {result.user_id: result for result in gateway.results(made.column_url)}
    sent = dict(AverageSent.objects.filter(average=made).values_list("learner", "score"))
    steps: list[Step] = []
    for row, result, typed in _differing(made, averages(made), shown, sent):
        step = Step(kind="total", job=job, position=len(steps))
        step.facts = TotalStep(
            column=str(made.pk),
            title=row.learner.name,
            learner=str(row.learner.pk),
            subject=row.learner.subject,
            given=str(row.total.score),
            maximum=str(made.points.normalize()),
        )
        if result is not None and result.score is not None:
            step.before = {"given": shortest(result.score)}
        if typed:
            step.state, step.message = Step.State.LEFT, "Somebody typed another score there."
        steps.append(step)
    with transaction.atomic():
        Step.objects.bulk_create(steps, batch_size=1_000)
        job.done, job.total = 0, sum(step.state == Step.State.PLANNED for step in steps)
        job.save(update_fields=["done", "total"])


def _words(job: Job, made: AverageColumn) -> str:
    steps = list(job.deploy_steps.all())
    lost = [step.title for step in steps if step.state == Step.State.FAILED]
    typed = [step.title for step in steps if step.state == Step.State.LEFT]
    count = sum(step.state == Step.State.DONE for step in steps)
    words = f"{many(count, 'total')} sent to '{made.title}'"
    words += f", {len(lost)} refused: {', '.join(lost[:5])}" if lost else ""
    words += f"; {len(typed)} left as somebody typed them: {', '.join(typed[:5])}" if typed else ""
    return words


def _differing(
    made: AverageColumn, rows: list[Row], shown: dict[str, Result], sent: dict[Any, Decimal]
) -> Iterator[tuple[Row, Result | None, bool]]:
    """Give the totals that the gradebook does not show, what it shows, and whether a person typed
    that.
    """
    for row in rows:
        result = shown.get(row.learner.subject)
        if row.total.score is None:
            continue
        if result is None or result.score is None:
            yield row, None, False
            continue
        column = Column(result.maximum, decimals(without_tail(result.score)), rounds=True)
        if column.shows(Mark(row.total.score, made.points), result.score):
            continue
        ours = sent.get(row.learner.pk)
        as_sent = ours is not None and column.shows(Mark(ours, made.points), result.score)
        yield row, result, not as_sent
