"""Queue tasks of the relay: ids in, thin calls to actions."""

from __future__ import annotations

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from vennpair.gateways.hold import why_held
from vennpair.service.kernel.apart import apart
from vennpair.service.kernel.jobs.locks import Busy
from vennpair.service.kernel.jobs.periodic import every, moment
from vennpair.service.kernel.jobs.queue import RELAY_PAIRING
from vennpair.service.kernel.jobs.running import carries_out
from vennpair.service.kernel.tracing import span
from vennpair.service.relay.actions.pull_results import PULL, carry_out_pull, pull_soon, pulls_due
from vennpair.service.relay.actions.raise_alarms import raise_alarms
from vennpair.service.relay.actions.send_scores import send_scores
from vennpair.service.relay.scheduling import enqueue_relay, take_up_relays

carries_out(PULL, carry_out_pull)


@app.task(name=RELAY_PAIRING, queue="relay", retry=RetryStrategy(max_attempts=3, wait=5))
def relay_pairing(pairing_id: str) -> None:
    """Send what waits in one pairing; come back for what must wait longer.

    Where another worker is at it, look again in a second: a retry would meet the lock of the next
    one in the queue.
    """
    try:
        with span("relay", pairing=pairing_id):
            seconds = send_scores(pairing_id)
    except Busy:
        seconds = 1.0
    if seconds is not None:
        enqueue_relay(pairing_id, seconds)


@every("* * * * *")
@app.task(queue="relay", queueing_lock="sweep-relay", retry=RetryStrategy(max_attempts=3, wait=5))
def sweep_relays(timestamp: int) -> None:
    """Take up what has come due and what a killed worker left, read results that are to be read,
    and say what waits too long; nothing of that while calls are kept back.
    """
    now = moment(timestamp)
    if why_held():
        return
    take_up_relays(now)
    apart(pulls_due(now), pull_soon, "reading results")
    raise_alarms(now)
