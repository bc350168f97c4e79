"""Send what is due in a pairing: claim, look, send, read back, settle; as wide as the platform's
throttle lets it.

Somebody who pauses is heard within half a second.
"""

from __future__ import annotations

import time
from typing import Any

from vennpair.core.failures import FailureKind
from vennpair.core.relay.pace import WIDEST
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.kernel.jobs.dispatcher import Landed
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.calls import Call, Look, ReadBack, Send, looks
from vennpair.service.relay.claiming import Sending, claim
from vennpair.service.relay.dispatcher import RelayDispatcher
from vennpair.service.relay.record_results import Settled, put_back, settle
from vennpair.service.relay.throttle import CLOSED, Throttle

BATCH = 300
AHEAD = 10 * WIDEST  # so many are kept ready, so that threads never wait for the database
HEAR = 0.4  # seconds between looks whether somebody paused
GATHER = 0.25  # seconds in which outcomes gather, to be settled together
BLINK = 0.05


class Sender:
    """One run over a pairing's cells; ``gateway`` and ``throttle`` are its platform's."""

    def __init__(self, pairing: Pairing, gateway: PlatformGateway, throttle: Throttle) -> None:
        self._pairing, self._throttle = pairing, throttle
        self._dispatcher = RelayDispatcher(gateway, throttle)
        self._outcomes: list[Settled] = []
        self._claimed: dict[int, Sending] = {}  # and not settled
        self._read: set[str] = set()  # columns that this batch has been read back from
        self._heard = self._settled_at = self._claimed_at = 0.0
        self._blocked = False

    def run(self) -> None:
        """Send until nothing is due, somebody pauses, or the platform closes.

        Nothing is left half settled.
        """
        try:
            while True:
                self._hear()
                self._claim()
                self._dispatcher.launch()
                if not self._dispatcher.flying and not (
                    self._dispatcher.ready and self._dispatcher.going
                ):
                    break
                for each in self._dispatcher.land(BLINK):
                    self._came(each)
                self._settle(always=False)
        finally:
            self._dispatcher.going = False
            self._dispatcher.close()
            for each in self._dispatcher.land(0):
                self._came(each)
            self._settle(always=True)
            put_back(list(self._claimed.values()))

    def _hear(self) -> None:
        """Find out whether to begin anything new."""
        if time.monotonic() - self._heard > HEAR:
            self._heard = time.monotonic()
            self._throttle.look()
            self._on = Pairing.objects.filter(
                pk=self._pairing.pk, relay_on=True, state=Pairing.State.LIVE
            ).exists()
        self._dispatcher.going = (
            self._on and not self._blocked and self._throttle.hindered() is None
        )

    def _claim(self) -> None:
        """Take what is due while there is room for it.

        With nothing to do, look at once, else now and then.
        """
        idle = not self._dispatcher.flying
        if (
            not self._dispatcher.going
            or len(self._dispatcher.ready) >= AHEAD
            or (not idle and time.monotonic() - self._claimed_at < GATHER)
        ):
            return
        self._claimed_at = time.monotonic()
        if idle:
            self._settle(always=True)
        batch = claim(self._pairing, BATCH, list(self._claimed))
        self._claimed.update({each.due.pk: each for each in batch})
        self._read.clear()
        self._dispatcher.ready.extend(looks(batch))

    def _came(self, landed: Landed[Call, Any]) -> None:
        call, error = landed.work, landed.error
        if error is not None and not isinstance(error, OutsideError):
            raise error
        if isinstance(error, OutsideError):
            self._failed(landed, error)
        elif isinstance(call, Look):
            self._outcomes.extend(
                Settled(each, each.failure)
                for each in landed.result or ()
                if each.failure is not None
            )
        elif isinstance(call, Send):
            self._outcomes.append(Settled(call.each, landed.result))
            self._blocked = self._blocked or (
                landed.result is not None and landed.result.kind is FailureKind.SETTING
            )
            if landed.result is None and call.each.column not in self._read:
                self._read.add(call.each.column)
                self._dispatcher.first([ReadBack(call.each)])
        else:
            self._outcomes.append(Settled(call.each, landed.result, read_back=True))

    def _failed(self, landed: Landed[Call, Any], error: OutsideError) -> None:
        call, failure = landed.work, error.failure
        self._blocked = self._blocked or failure.kind is FailureKind.SETTING
        if failure.code == CLOSED or isinstance(call, ReadBack):
            return  # not begun; or accepted already, and a comparison will look again
        self._outcomes.extend(
            Settled(each, failure)
            for each in (call.cells if isinstance(call, Look) else (call.each,))
        )

    def _settle(self, *, always: bool) -> None:
        self._throttle.write()
        if not self._outcomes or (not always and time.monotonic() - self._settled_at < GATHER):
            return
        outcomes, self._outcomes = self._outcomes, []
        settle(self._pairing, outcomes, self._throttle.pace)
        self._settled_at = time.monotonic()
        for each in outcomes:
            self._claimed.pop(each.sending.due.pk, None)
