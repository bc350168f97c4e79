"""The job bodies of this step, and what begins automatically; the queue finds this module."""

from __future__ import annotations

from django.conf import settings
from procrastinate.contrib.django import app

from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.periodic import every, moment
from vennpair.service.kernel.jobs.running import carries_out
from vennpair.service.reconcile.actions.carry_out_settling import carry_out_settling
from vennpair.service.reconcile.actions.compare_many import ask_for_the_night, begin_asked
from vennpair.service.reconcile.actions.compare_pairing import compare_pairing
from vennpair.service.reconcile.actions.send_digests import send_digests
from vennpair.service.reconcile.actions.start_settling import SETTLE


def compare_and_make_room(job: Job) -> str:
    """Compare, then begin the next that waits for the same platform."""
    try:
        return compare_pairing(job)
    finally:
        begin_asked(job)


carries_out("comparison", compare_and_make_room)
carries_out(SETTLE, carry_out_settling)


@every("* * * * *")
@app.task(queue="jobs", queueing_lock="comparisons")
def compare_in_turn(timestamp: int) -> None:
    """Ask for the night's comparisons, and begin those that their platforms have room for."""
    if settings.NIGHTLY:
        ask_for_the_night(moment(timestamp))
    begin_asked()


@every("3,33 * * * *")
@app.task(queue="jobs", queueing_lock="digests")
def tell_in_the_morning(timestamp: int) -> None:
    """Send the digests of the morning, of what was compared by night."""
    if settings.NIGHTLY:
        send_digests(moment(timestamp))
