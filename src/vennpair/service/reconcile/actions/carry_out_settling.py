"""Carry out a settlement: each step looks, writes and reads back, and is recorded.

From wherever it was left.
"""

from __future__ import annotations

from collections import Counter
from decimal import Decimal

from django.db import transaction
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.reconcile.remedies import MAKE_AGAIN
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.deploy.step_handlers import TAG
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.concurrency import Outcome, run_concurrently
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked, step_done
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.trail import record
from vennpair.service.reconcile.gradebook_writes import (
    DONE,
    POINTS,
    Came,
    MakeColumn,
    WriteCell,
    WriteColumn,
)
from vennpair.service.reconcile.models import Settlement, SettleStep
from vennpair.service.reconcile.record_outcome import (
    settle_cell,
    settle_column,
    settle_here,
    settle_made,
)
from vennpair.standards.lti.grades import LineItem

WRITES_COLUMN = (*POINTS, "title_differs", "due_differs", "category_differs")


def carry_out_settling(job: Job) -> str:
    """Do every step that is not done. Raises OutsideError where the platform asks for patience."""
    settlement = Settlement.objects.select_related(
        "pairing__shell__platform__institution", "carried_by"
    ).get(job=job)
    gateway = shell_gateway(settlement.pairing.shell)
    waiting = list(
        settlement.steps.filter(state=SettleStep.State.PLANNED).select_related(
            "placement__item", "person"
        )
    )
    cells = [step for step in waiting if step.scope == "cell" and step.facts.get("given", "") != ""]
    for step in waiting:
        if step not in cells and not cancel_asked(job):
            _one_by_one(job, settlement, step, gateway)
    _cells(job, cells, gateway)
    if cancel_asked(job):
        raise Cancelled(_stopped(settlement))
    counts = Counter(settlement.steps.values_list("state", flat=True))
    words = _words(counts, undone=job.undoes_id is not None)
    with transaction.atomic():
        record(
            "settlement.done",
            f"{words[0].upper()}{words[1:]}.",
            pairing=settlement.pairing,
            actor=job.made_by,
            after={"settlement": str(settlement.pk), **counts},
        )
    return words


def _one_by_one(
    job: Job, settlement: Settlement, step: SettleStep, gateway: PlatformGateway
) -> None:
    """Decisions, matches and columns; a column's fields are written one after another, as each
    write replaces the whole column.
    """
    if step.remedy == MAKE_AGAIN:
        came = _make_again(settlement, step, gateway)
        with transaction.atomic():
            settle_made(step, came)
            step_done(job, step.words)
        return
    if step.scope == "column" and step.kind in WRITES_COLUMN and "to" in step.facts:
        if step.placement is None:
            came = Came(SettleStep.State.FAILED, None, "The item is not placed any more.")
        else:
            call = WriteColumn(
                step.placement.column_url,
                step.kind,
                step.before or "",
                step.facts["to"] or "",
                settlement.pairing.shell.outline_url,
            )
            came = call(gateway)
        with transaction.atomic():
            settle_column(step, came)
            step_done(job, step.words)
        return
    try:
        with transaction.atomic():
            settle_here(settlement, step)
            step_done(job, step.words)
    except Refused as error:
        with transaction.atomic():
            step.state, step.message, step.done_at = (
                SettleStep.State.FAILED,
                f"{error.message} {error.remedy}"[:500],
                timezone.now(),
            )
            step.save()
            step_done(job, step.words)


def _make_again(settlement: Settlement, step: SettleStep, gateway: PlatformGateway) -> Came:
    """Make a lost column again. Raises OutsideError where the platform asks for patience."""
    placement, shell = step.placement, settlement.pairing.shell
    if placement is None:
        return Came(SettleStep.State.FAILED, None, "The item is not placed any more.")
    if placement.points is None or not shell.lineitems_url:
        lacks = "how many points it has" if placement.points is None else "where to make it"
        words = f"It is not known {lacks}. Deploy the item again from the Deploy page."
        return Came(SettleStep.State.FAILED, None, words)
    wanted = LineItem(
        placement.title,
        placement.points.normalize(),
        resource_id=str(placement.pk),
        resource_link_id=placement.resource_link_id,
        tag=TAG,
        start=placement.shown_from,
        end=placement.due_date,
    )
    call = MakeColumn(shell.lineitems_url, wanted, placement.category, shell.outline_url)
    return call(gateway)


def _cells(job: Job, steps: list[SettleStep], gateway: PlatformGateway) -> None:
    ready: list[tuple[SettleStep, WriteCell]] = []
    for step in steps:
        if step.placement is None or not step.placement.column_url or step.person is None:
            with transaction.atomic():
                settle_cell(
                    step,
                    Came(
                        SettleStep.State.FAILED,
                        None,
                        "The column or the learner is not there any more. Compare again.",
                    ),
                )
                step_done(job)
        else:
            ready.append(
                (
                    step,
                    WriteCell(
                        step.placement.column_url,
                        step.person.subject,
                        _number(step.before),
                        _number(step.facts["given"]),
                        _number(step.facts["maximum"]),
                        timezone.now,
                    ),
                )
            )

    def settle(outcomes: list[Outcome[tuple[SettleStep, WriteCell], Came]]) -> None:
        with transaction.atomic():
            for (step, _), came in outcomes:
                if not isinstance(came, OutsideError):
                    settle_cell(step, came)
                    step_done(job, step.words)

    run_concurrently(ready, lambda each: each[1](gateway), settle, lambda: not cancel_asked(job))


def _stopped(settlement: Settlement) -> str:
    """Give up what was not begun; return how far it came."""
    left = settlement.steps.filter(state=SettleStep.State.PLANNED).update(
        state=SettleStep.State.STOPPED, message="Stopped before it was begun."
    )
    done = settlement.steps.filter(state=SettleStep.State.DONE).count()
    return f"Stopped: {many(done, 'finding')} settled, {left} not begun"


def _number(text: str | None) -> Decimal | None:
    return None if text is None else Decimal(text)


def _words(counts: Counter[str], *, undone: bool) -> str:
    done = f"{many(counts[DONE], 'finding')} {'taken back' if undone else 'settled'}"
    moved = (
        f", {counts['moved']} left alone as something else stood there by then"
        if counts["moved"]
        else ""
    )
    return done + moved + (f", {counts['failed']} failed" if counts["failed"] else "")
