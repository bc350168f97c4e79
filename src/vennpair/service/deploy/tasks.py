"""The job bodies of this step; the queue finds this module."""

from __future__ import annotations

from django.conf import settings
from procrastinate.contrib.django import app

from vennpair.service.deploy.actions.carry_out_rollout import carry_out_rollout
from vennpair.service.deploy.actions.check_as_learner import CHECK, carry_out_check
from vennpair.service.deploy.actions.look_for_drift import LOOK, carry_out_looking, look_by_night
from vennpair.service.deploy.actions.send_totals import SEND, carry_out_sending, keep_up
from vennpair.service.kernel.jobs.periodic import every, moment
from vennpair.service.kernel.jobs.running import carries_out

carries_out("rollout", carry_out_rollout)
carries_out(LOOK, carry_out_looking)
carries_out(CHECK, carry_out_check)
carries_out(SEND, carry_out_sending)


@every("* * * * *")
@app.task(queue="jobs", queueing_lock="drift")
def look_for_drift_by_night(timestamp: int) -> None:
    """Begin looking for drift in the live pairings whose night it is."""
    if settings.NIGHTLY:
        look_by_night(moment(timestamp))


@every("*/15 * * * *")
@app.task(queue="jobs", queueing_lock="totals")
def keep_totals_up(timestamp: int) -> None:
    """Send the totals that keep up with the publisher's scores; only what changed goes."""
    keep_up(moment(timestamp))
