"""Send what is due in a pairing."""

from __future__ import annotations

import logging

from django.utils import timezone

from vennpair.core.pair.states import relays
from vennpair.gateways.hold import why_held
from vennpair.gateways.http import OutsideError
from vennpair.service.kernel.jobs.locks import only_one
from vennpair.service.pair.actions.refresh_roster import refresh_roster
from vennpair.service.pair.consent import agreed, shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.claiming import ROSTER_AGAIN, hold_if_off
from vennpair.service.relay.due_dates import know_due_dates
from vennpair.service.relay.models import Cell
from vennpair.service.relay.scheduling import wait_for_writers
from vennpair.service.relay.sender import Sender
from vennpair.service.relay.throttle import Throttle, throttle_of

SOON = 60.0  # what is due later than this is taken up by the minute's sweep
log = logging.getLogger(__name__)


def send_scores(pairing_id: str) -> float | None:
    """Send all that is due in a pairing; return in how many seconds to come again, if soon.

    Raises Busy where another worker does it at this moment.
    """
    with only_one(f"relay:{pairing_id}"):
        wait_for_writers(pairing_id)
        pairing = Pairing.objects.select_related(
            "shell__platform__institution", "course__publisher"
        ).get(pk=pairing_id)
        if not agreed(pairing.shell):
            return None  # all is kept; agreeing and resuming enqueues it again
        if why_held():
            return None  # all is kept; the minute's sweep enqueues it once the hold ends
        throttle = throttle_of(pairing.shell.platform_id)
        throttle.look()
        if throttle.hindered() is None:
            _know_roster(pairing)
            know_due_dates(pairing, timezone.now())
            Sender(pairing, shell_gateway(pairing.shell), throttle).run()
        return None if hold_if_off(pairing) else _come_again(pairing, throttle)


def _know_roster(pairing: Pairing) -> None:
    """Read the roster where that was long ago, so that nobody's score goes to a course they have
    left.
    """
    shell = pairing.shell
    if not shell.memberships_url or not relays(pairing.state) or not pairing.relay_on:
        return
    if shell.roster_at is None or timezone.now() - shell.roster_at > ROSTER_AGAIN:
        try:
            refresh_roster(shell)
        except OutsideError as error:
            log.warning(
                "the roster of shell %s was not read: %s", shell.pk, error
            )  # the scores themselves will tell


def _come_again(pairing: Pairing, throttle: Throttle) -> float | None:
    now, waiting = (
        timezone.now(),
        Cell.objects.filter(pairing=pairing, state__in=[Cell.State.WAITING, Cell.State.HELD]),
    )
    times = [waiting.exclude(until=None).order_by("until").values_list("until", flat=True).first()]
    if throttle.pace.closed_until and waiting.filter(state=Cell.State.WAITING).exists():
        times.append(throttle.pace.closed_until)
    seconds = min(
        ((each - now).total_seconds() for each in times if each is not None), default=SOON
    )
    return max(1.0, seconds) if seconds < SOON else None
