"""What is told when content has been read, or brought into a shell."""

from __future__ import annotations

from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.telling import Ending


def of_import(job: Job) -> Ending:
    """Say what can be done with what was read."""
    return Ending(
        f"/pairings/{job.pairing_id}/content",
        "Choose what to bring in, or place items under Deploy.",
        "content was read",
    )


def of_delivery(job: Job) -> Ending:
    """Say where what was brought in is listed."""
    return Ending(f"/pairings/{job.pairing_id}/content/imports/{job.delivery.import_of_id}")
