"""Start comparing a pairing."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.connect.models import User
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import start_job
from vennpair.service.pair.models import Pairing
from vennpair.service.reconcile.models import Comparison
from vennpair.service.stored import GivenGradebook


def start_comparison(
    pairing: Pairing, actor: User | None, *, given: GivenGradebook | None = None
) -> Comparison:
    """Make a comparison and enqueue it; one that has still to begin reading is returned instead.

    One that is reading already may have read a side before what the asker has just done, so it does
    not answer them.

    ``given`` is a gradebook that somebody has as a file, as ``given_gradebook`` tells it; then it
    is another comparison.
    """
    with transaction.atomic():
        Pairing.objects.select_for_update(of=("self",), no_key=True).get(pk=pairing.pk)
        waiting = (
            Comparison.objects.filter(
                pairing=pairing,
                given=given or {},
                job__state__in=[Job.State.QUEUED, Job.State.WAITING],
            )
            .select_related("job")
            .first()
        )
        if waiting:
            return waiting
        job = start_job("comparison", pairing, actor)
        return Comparison.objects.create(pairing=pairing, job=job, given=given or {})
