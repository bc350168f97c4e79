"""Stop what an import is doing: its reading, or a delivery of its entries."""

from __future__ import annotations

from django.db import transaction
from django.db.models import Q

from vennpair.service.connect.models import User
from vennpair.service.content.models import Import
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import UNFINISHED, Job
from vennpair.service.operations.actions.stop import stop
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record


def stop_import(made: Import, actor: User) -> Job:
    """Ask the running job to stop; what is in flight is finished first.

    Raises Refused where nothing runs.
    """
    require_instructor(actor, made.pairing.shell)
    with transaction.atomic():
        unfinished = Job.objects.select_for_update(of=("self",)).filter(
            Q(import_of=made) | Q(delivery__import_of=made),
            state__in=UNFINISHED,
        )
        job = unfinished.order_by("-made_at").first()
        if job is None:
            raise Refused(
                "nothing_running",
                "Nothing of this import is under way.",
                "Nothing needs to be stopped.",
                409,
            )
        job = stop(job)
        record(
            "import.stopped",
            f"The import of '{made.title or made.filename}' was asked to stop.",
            pairing=made.pairing,
            actor=actor,
        )
    return job
