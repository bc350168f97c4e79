"""Queue tasks of the relay: ids in, thin calls to actions."""

from __future__ import annotations

from django.db import connection
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from vennpair.service.ops.locks import Busy
from vennpair.service.ops.queue import RELAY_PAIRING
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.actions.send_scores import enqueue_relay, send_scores, take_up_relays


@app.task(name=RELAY_PAIRING, queue="relay", retry=RetryStrategy(max_attempts=3, wait=5))
def relay_pairing(pairing_id: str) -> None:
    """Send what waits in one pairing; come back for what must wait longer.

    Where another worker is at it, look again in a second: a retry would meet the lock of the next one in the queue.
    """
    try:
        try:
            seconds = send_scores(pairing_id)
        except Busy:
            seconds = 1.0
        if seconds is not None:
            enqueue_relay(Pairing.objects.get(pk=pairing_id), seconds)
    finally:
        connection.close()


@app.periodic(cron="* * * * *")
@app.task(queue="relay", queueing_lock="sweep-relay", retry=RetryStrategy(max_attempts=3, wait=5))
def sweep_relays(timestamp: int) -> None:
    """Take up what a killed worker left between claim and settle."""
    try:
        take_up_relays()
    finally:
        connection.close()
