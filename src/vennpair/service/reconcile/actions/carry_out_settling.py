"""Carry out a settlement: each step looks, writes and reads back, and is recorded.

From wherever it was left.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from decimal import Decimal

from django.db import transaction
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.deploy.dates import in_zone
from vennpair.core.reconcile.remedies import MAKE_AGAIN
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.deploy.step_handlers import TAG
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked
from vennpair.service.operations.runner import Record, StepRunner
from vennpair.service.operations.steps import stop_rest
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.trail import record
from vennpair.service.reconcile.gradebook_writes import (
    DONE,
    FAILED,
    LEFT,
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
NOT_PLACED = Came(FAILED, None, "The item is no longer placed.")
LOST = Came(FAILED, None, "The column or the learner is no longer there. Compare again.")


def carry_out_settling(job: Job) -> str:
    """Do every step that is not done. Raises OutsideError where the platform asks for patience."""
    settlement = Settlement.objects.select_related(
        "pairing__shell__platform__institution", "carried_by"
    ).get(job=job)
    running = _SettlementRunner(job, settlement, shell_gateway(settlement.pairing.shell))
    waiting = list(running.planned().select_related("placement__item", "person"))
    cells = [step for step in waiting if _is_cell(step)]
    # A column's fields are written one after another, as each write replaces the whole column.
    running.run([step for step in waiting if not _is_cell(step)], width=1)
    running.run(cells)
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


class _SettlementRunner(StepRunner[SettleStep]):
    """The steps of one settlement on their way."""

    def __init__(self, job: Job, settlement: Settlement, gateway: PlatformGateway) -> None:
        super().__init__(job, job.reconcile_steps.all())
        self.settlement, self.gateway = settlement, gateway

    def does(self, step: SettleStep) -> str:
        """Say what is written."""
        return step.words

    def call(self, step: SettleStep) -> Record:
        """Write to the gradebook, where the step does, and read it back."""
        if _is_cell(step):
            return self._written(step, self._cell(step), settle_cell)
        if step.remedy == MAKE_AGAIN:
            return self._written(step, self._column_again(step), settle_made)
        if step.scope == "column" and step.kind in WRITES_COLUMN and "to" in step.facts:
            return self._written(step, self._column(step), settle_column)
        return lambda: self._here(step)

    def _written(
        self,
        step: SettleStep,
        write: Callable[[PlatformGateway], Came] | Came,
        settle: Callable[[SettleStep, Came], None],
    ) -> Record:
        came = write if isinstance(write, Came) else write(self.gateway)
        return lambda: settle(step, came)

    def _here(self, step: SettleStep) -> None:
        """Do what is ours alone: a decision, a match, a link's graded item."""
        try:
            with transaction.atomic():
                settle_here(self.settlement, step)
        except Refused as error:
            step.state, step.message = FAILED, f"{error.message} {error.remedy}"[:500]

    def _cell(self, step: SettleStep) -> WriteCell | Came:
        if step.placement is None or not step.placement.column_url or step.person is None:
            return LOST
        return WriteCell(
            step.placement.column_url,
            step.person.subject,
            _number(step.before),
            _number(step.facts["given"]),
            _number(step.facts["maximum"]),
            timezone.now,
        )

    def _column(self, step: SettleStep) -> WriteColumn | Came:
        if step.placement is None:
            return NOT_PLACED
        return WriteColumn(
            step.placement.column_url,
            step.kind,
            step.before or "",
            step.facts["to"] or "",
            self.settlement.pairing.shell.outline_url,
        )

    def _column_again(self, step: SettleStep) -> MakeColumn | Came:
        """Return how a lost column is made again."""
        placement, shell = step.placement, self.settlement.pairing.shell
        if placement is None:
            return NOT_PLACED
        if placement.points is None or not shell.lineitems_url:
            lacks = "how many points it has" if placement.points is None else "where to make it"
            words = f"It is not known {lacks}. Deploy the item again from the Deploy page."
            return Came(FAILED, None, words)
        wanted = LineItem(
            placement.title,
            placement.points.normalize(),
            resource_id=str(placement.pk),
            resource_link_id=placement.resource_link_id,
            tag=TAG,
            start=placement.shown_from,
            end=in_zone(placement.due_at, shell.zone),
        )
        return MakeColumn(shell.lineitems_url, wanted, placement.category, shell.outline_url)


def _is_cell(step: SettleStep) -> bool:
    """Say whether a score is written to a cell, or taken out of it."""
    return step.scope == "cell" and step.facts.get("given", "") != ""


def _stopped(settlement: Settlement) -> str:
    """Give up what was not begun; return how far it came."""
    left = stop_rest(settlement.steps)
    done = settlement.steps.filter(state=DONE).count()
    return f"Stopped: {many(done, 'finding')} settled, {left} not begun"


def _number(text: str | None) -> Decimal | None:
    return None if text is None else Decimal(text)


def _words(counts: Counter[str], *, undone: bool) -> str:
    done = f"{many(counts[DONE], 'finding')} {'undone' if undone else 'settled'}"
    moved = (
        f", {counts[LEFT]} left alone as something else was there by then" if counts[LEFT] else ""
    )
    return done + moved + (f", {counts[FAILED]} failed" if counts[FAILED] else "")
