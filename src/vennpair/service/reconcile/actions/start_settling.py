"""Start settling findings: an instructor's is carried out, an assistant's is proposed."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from vennpair.core.counting import many
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import AlreadyRunning, start_again
from vennpair.service.operations.actions.begin import begin, busy
from vennpair.service.operations.kinds import kind_of
from vennpair.service.pair.queries import may_change, require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.reconcile.models import Comparison, Settlement, SettleStep

SETTLE = "settle"


def start_settling(comparison: Comparison, steps: Sequence[SettleStep], actor: User) -> Settlement:
    """Store the steps and enqueue them.

    Of somebody who may not change the shell they become a proposal. Raises Refused.
    """
    pairing = comparison.pairing
    may = may_change(actor, pairing.shell)
    with transaction.atomic():
        job = begin(SETTLE, pairing, actor, len(steps), proposed=not may)
        made = Settlement.objects.create(
            pairing=pairing,
            comparison=comparison,
            job=job,
            made_by=actor,
            carried_by=actor if may else None,
        )
        _keep(made, steps)
        if may:
            _note_begun(made, actor)
        else:
            record(
                "settlement.proposed",
                f"{many(len(steps), 'finding was', 'findings were')} proposed to be settled; an"
                " instructor carries it out.",
                pairing=pairing,
                actor=actor,
                after={"settlement": str(made.pk)},
            )
    return made


def carry_out_proposal(settlement: Settlement, actor: User) -> Settlement:
    """An instructor carries out what was proposed. Raises Refused."""
    require_instructor(actor, settlement.pairing.shell)
    with transaction.atomic():
        locked = _proposed(settlement)
        try:
            start_again(locked.job, made_by=actor)
        except AlreadyRunning as error:
            raise busy(kind_of(locked.job), error.job) from None
        locked.carried_by = actor
        locked.save(update_fields=["carried_by"])
        _note_begun(locked, actor)
    return locked


def dismiss_proposal(settlement: Settlement, actor: User) -> Settlement:
    """Put a proposal aside: an instructor, or who made it. Raises Refused."""
    if settlement.made_by_id != actor.pk:
        require_instructor(actor, settlement.pairing.shell)
    with transaction.atomic():
        locked = _proposed(settlement)
        locked.job.state = Job.State.DISMISSED
        locked.job.save(update_fields=["state"])
        record(
            "settlement.dismissed",
            "A proposal to settle findings was put aside.",
            pairing=locked.pairing,
            actor=actor,
            after={"settlement": str(locked.pk)},
        )
    return locked


def start_undo(settlement: Settlement, steps: Sequence[SettleStep], actor: User) -> Settlement:
    """Store and enqueue what takes a settlement back. Raises Refused."""
    pairing = settlement.pairing
    require_instructor(actor, pairing.shell)
    with transaction.atomic():
        job = begin(SETTLE, pairing, actor, len(steps), undoes=settlement.job)
        made = Settlement.objects.create(
            pairing=pairing,
            comparison=settlement.comparison,
            job=job,
            made_by=actor,
            carried_by=actor,
        )
        _keep(made, steps)
        _note_begun(made, actor)
    return made


def _keep(made: Settlement, steps: Sequence[SettleStep]) -> None:
    for step in steps:
        step.job = made.job
    SettleStep.objects.bulk_create(steps, batch_size=1_000)


def _note_begun(made: Settlement, actor: User) -> None:
    findings = many(made.steps.count(), "finding is", "findings are")
    record(
        "settlement.begun",
        f"{findings} being {'undone' if made.job.undoes_id else 'settled'}.",
        pairing=made.pairing,
        actor=actor,
        after={"settlement": str(made.pk)},
    )


def _proposed(settlement: Settlement) -> Settlement:
    locked = (
        Settlement.objects.select_for_update(of=("self", "job"))
        .select_related("pairing__shell__platform__institution", "job")
        .get(pk=settlement.pk)
    )
    if locked.job.state != Job.State.PROPOSED:
        raise Refused(
            "not_proposed",
            "This proposal is closed: it was carried out or dismissed.",
            "Look at the list again.",
            409,
        )
    return locked
