"""Send what is due in a pairing: claim, look, send, read back, settle; as wide as the platform's gate lets it.

Threads only call; the database is touched by the caller's thread alone. Somebody who pauses is heard within half a second.
"""

from __future__ import annotations

import time
from collections import deque
from concurrent.futures import FIRST_COMPLETED, Future, ThreadPoolExecutor, wait
from typing import Any

from django.utils import timezone

from vennpair.core.failures import Failure, FailureKind
from vennpair.core.relay.pace import WIDEST
from vennpair.gateways.http import OutsideError
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.calls import Call, Look, ReadBack, Send, looks
from vennpair.service.relay.claiming import Sending, claim
from vennpair.service.relay.gate import CLOSED, Gate
from vennpair.service.relay.settling import Settled, put_back, settle

BATCH = 200
HEAR = 0.4  # seconds between looks whether somebody paused
GATHER = 0.15  # seconds in which outcomes gather, to be settled together
BLIND = 0.02


class Sender:
    """One run over a pairing's cells; ``gateway`` and ``gate`` are its platform's."""

    def __init__(self, pairing: Pairing, gateway: Any, gate: Gate) -> None:
        self._pairing, self._gateway, self._gate = pairing, gateway, gate
        self._ready: deque[Call] = deque()
        self._pending: dict[Future[Any], Call] = {}
        self._outcomes: list[Settled] = []
        self._flying: dict[int, Sending] = {}  # claimed and not settled
        self._read_columns: set[str] = set()
        self._heard = self._settled_at = self._claimed_at = 0.0
        self._on, self._blocked = True, False

    def run(self) -> None:
        """Send until nothing is due, somebody pauses, or the platform closes; nothing is left half settled."""
        with ThreadPoolExecutor(WIDEST) as threads:
            while True:
                self._claim()
                self._launch(threads)
                if not self._pending and not (self._ready and self._going()):
                    break
                self._land()
                self._settle(always=False)
        self._settle(always=True)
        put_back(list(self._flying.values()))

    def _going(self) -> bool:
        """Say whether to begin anything new."""
        if time.monotonic() - self._heard > HEAR:
            self._heard = time.monotonic()
            self._on = Pairing.objects.filter(pk=self._pairing.pk, relay_on=True, state=Pairing.State.LIVE).exists()
        return self._on and not self._blocked and self._gate.pace.open_at(timezone.now())

    def _claim(self) -> None:
        """Take what is due while there is room for it; with nothing to do, look at once, else now and then."""
        if len(self._ready) >= WIDEST or (self._pending and time.monotonic() - self._claimed_at < GATHER) or not self._going():
            return
        self._claimed_at = time.monotonic()
        self._settle(always=not self._pending)
        batch = claim(self._pairing, BATCH, list(self._flying))
        self._flying.update({each.cell.pk: each for each in batch})
        self._read_columns.clear()
        self._ready.extend(looks(batch))

    def _launch(self, threads: ThreadPoolExecutor) -> None:
        while self._ready and self._going() and self._gate.enter():
            each = self._ready.popleft()
            self._pending[threads.submit(each, self._gateway)] = each

    def _land(self) -> None:
        """Take what came back; where all wait for the gate, wait with them."""
        if not self._pending:
            time.sleep(BLIND)
            return
        done, _ = wait(self._pending, timeout=HEAR, return_when=FIRST_COMPLETED)
        for future in done:
            call, now = self._pending.pop(future), timezone.now()
            try:
                result = future.result()
            except OutsideError as error:
                self._gate.leave(error.failure, now)
                self._failed(call, error.failure)
            except BaseException:
                self._gate.leave(None, now)
                raise
            else:
                self._gate.leave(None, now)
                self._came(call, result)

    def _came(self, call: Call, result: Any) -> None:
        if isinstance(call, Look):
            self._ready.extendleft(Send(each, self._gate.hindered) for each in result if each.failure is None)
            self._outcomes.extend(Settled(each, each.failure) for each in result if each.failure is not None)
        elif isinstance(call, Send):
            self._outcomes.append(Settled(call.each, result))
            self._blocked = self._blocked or (result is not None and result.kind is FailureKind.SETTING)
            if result is None and call.each.column not in self._read_columns:
                self._read_columns.add(call.each.column)
                self._ready.appendleft(ReadBack(call.each))
        else:
            self._outcomes.append(Settled(call.each, result, read_back=True))

    def _failed(self, call: Call, failure: Failure) -> None:
        self._blocked = self._blocked or failure.kind is FailureKind.SETTING
        if failure.code == CLOSED:
            self._ready.appendleft(call)
            return
        if isinstance(call, ReadBack):
            return  # it was accepted; a comparison will look again
        self._outcomes.extend(Settled(each, failure) for each in (call.cells if isinstance(call, Look) else (call.each,)))

    def _settle(self, *, always: bool) -> None:
        if not self._outcomes or (not always and time.monotonic() - self._settled_at < GATHER and len(self._outcomes) < BATCH):
            return
        self._settled_at = time.monotonic()
        settle(self._pairing, self._outcomes, self._gate.pace)
        for each in self._outcomes:
            self._flying.pop(each.sending.cell.pk, None)
        self._outcomes = []
