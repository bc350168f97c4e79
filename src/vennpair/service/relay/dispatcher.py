"""The calls of one relay in the air: as wide as the platform's throttle lets them, a look at a
column followed by its scores.
"""

from __future__ import annotations

from typing import Any, cast

from django.utils import timezone

from vennpair.core.relay.pace import WIDEST
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.kernel.jobs.dispatcher import Dispatcher, Landed
from vennpair.service.relay.calls import Call, Look, Send, with_patience
from vennpair.service.relay.claiming import Sending
from vennpair.service.relay.throttle import CLOSED, Throttle


class RelayDispatcher(Dispatcher[Call, Any]):
    """Calls of a relay ready, in the air and landed."""

    def __init__(self, gateway: PlatformGateway, throttle: Throttle) -> None:
        super().__init__(lambda call: call(gateway), WIDEST)
        self._throttle = throttle

    @property
    def width(self) -> int:
        """How many calls the platform bears now."""
        return self._throttle.wide

    def may_begin(self) -> bool:
        """Take a place of the throttle."""
        return self._throttle.enter()

    def made(self, work: Call) -> Landed[Call, Any]:
        """Make the call and give its place back with what came of it."""
        landed = super().made(work)
        if isinstance(landed.error, OutsideError):
            failure = with_patience(landed.error.failure)
            self._throttle.leave(failure, timezone.now())
            if failure.code == CLOSED:
                self.first([work])
            return Landed(work, None, OutsideError(failure))
        self._throttle.leave(None, timezone.now())
        if isinstance(work, Look) and landed.error is None:
            looked = cast("list[Sending]", landed.result)
            self.first(
                Send(each, self._throttle.hindered) for each in looked if each.failure is None
            )
        return landed
