"""What is told when a rollout or a learner check has ended."""

from __future__ import annotations

from vennpair.service.deploy.models import Rollout
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.telling import Ending


def of_rollout(job: Job) -> Ending | None:
    """Say what follows after placing; a new order is not worth a notice."""
    purpose, pairing = job.rollout.purpose, job.pairing
    if purpose == Rollout.Purpose.ORDER:
        return None
    link = f"/pairings/{job.pairing_id}/deploy/rollouts"
    if purpose == Rollout.Purpose.DEPLOY and not pairing.relay_on:
        return Ending(link, "Turn the relay on, so that scores go to the gradebook.")
    return Ending(link)


def of_check(job: Job) -> Ending | None:
    """Say what to do about links with trouble; one that nobody asked for is told only of those."""
    check = job.learner_check
    trouble = any(each["level"] != "note" for row in check.rows for each in row["findings"])
    if not (check.asked or trouble or job.state != Job.State.DONE):
        return None
    following = "Each link with trouble says what to do about it." if trouble else ""
    return Ending(f"/pairings/{job.pairing_id}/deploy/changes", following)
