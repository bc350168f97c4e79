"""Start settling findings: an instructor's is carried out, an assistant's is proposed."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from vennpair.core.counting import many
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.running import start_job
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import may_change, require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.reconcile.models import Comparison, Settlement, SettleStep

SETTLE = "settle"


def start_settling(comparison: Comparison, steps: Sequence[SettleStep], actor: User) -> Settlement:
    """Store the steps and enqueue them.

    Of somebody who may not change the shell they become a proposal.
    """
    pairing = comparison.pairing
    with transaction.atomic():
        made = Settlement.objects.create(
            pairing=pairing, comparison=comparison, made_by=actor, state=Settlement.State.PROPOSED
        )
        _keep(made, steps)
        if may_change(actor, pairing.shell):
            _begin(made, actor)
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
        _begin(locked, actor)
    return locked


def dismiss_proposal(settlement: Settlement, actor: User) -> Settlement:
    """Put a proposal aside: an instructor, or who made it. Raises Refused."""
    if settlement.made_by_id != actor.pk:
        require_instructor(actor, settlement.pairing.shell)
    with transaction.atomic():
        locked = _proposed(settlement)
        locked.state = Settlement.State.DISMISSED
        locked.save(update_fields=["state"])
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
    require_instructor(actor, settlement.pairing.shell)
    with transaction.atomic():
        made = Settlement.objects.create(
            pairing=settlement.pairing,
            comparison=settlement.comparison,
            made_by=actor,
            undoes=settlement,
        )
        _keep(made, steps)
        _begin(made, actor)
    return made


def _keep(made: Settlement, steps: Sequence[SettleStep]) -> None:
    for step in steps:
        step.settlement = made
    SettleStep.objects.bulk_create(steps, batch_size=1_000)


def _begin(made: Settlement, actor: User) -> None:
    Pairing.objects.select_for_update(of=("self",), no_key=True).get(pk=made.pairing_id)
    if (
        Settlement.objects.filter(pairing=made.pairing, state=Settlement.State.BEGUN)
        .exclude(pk=made.pk)
        .exists()
    ):
        raise Refused(
            "settling_already",
            "Findings of this pairing are being settled already.",
            "Wait until that is done, compare again, then settle the rest.",
            409,
        )
    count = made.steps.count()
    made.job = start_job(SETTLE, made.pairing, actor, count, "waits for a worker")
    made.state, made.carried_by = Settlement.State.BEGUN, actor
    made.save()
    what = "taken back" if made.undoes_id else "settled"
    record(
        "settlement.begun",
        f"{many(count, 'finding is', 'findings are')} being {what}.",
        pairing=made.pairing,
        actor=actor,
        after={"settlement": str(made.pk)},
    )


def _proposed(settlement: Settlement) -> Settlement:
    locked = (
        Settlement.objects.select_for_update(of=("self",))
        .select_related("pairing__shell__platform")
        .get(pk=settlement.pk)
    )
    if locked.state != Settlement.State.PROPOSED:
        raise Refused(
            "not_proposed",
            "This is no proposal any more: it was carried out or put aside.",
            "Look at the list again.",
            409,
        )
    return locked
