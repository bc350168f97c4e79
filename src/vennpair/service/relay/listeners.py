"""What the relay does where a lower app announces something."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from django.db.models import Q

from vennpair.service.content.hooks import dates_moved
from vennpair.service.content.models import Placement
from vennpair.service.deploy.hooks import column_known, column_made
from vennpair.service.kernel.jobs.waking import worker_begins
from vennpair.service.pair.hooks import (
    ScoresOf,
    account_matched,
    learners_returned,
    pairing_changed,
    scores_of,
)
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.relay.actions.fill_new_column import fill_new_column
from vennpair.service.relay.actions.take_reports import claim_strays
from vennpair.service.relay.models import Cell
from vennpair.service.relay.scheduling import enqueue_relay, take_up_relays, wake, wake_returned


def listen() -> None:
    """Listen to what concerns scores."""
    worker_begins.listen(take_up_relays)
    pairing_changed.listen(_wake_held_back)
    learners_returned.listen(_wake_returned)
    account_matched.listen(_claim_strays)
    scores_of.listen(_scores_of)
    column_known.listen(_relay)
    column_made.listen(fill_new_column)
    dates_moved.listen(_decide_again)


def _wake_held_back(pairing: Pairing) -> None:
    """Decide again of what waits only for the relay to be on and the pairing to be live, or is to
    be stopped now.
    """
    waits = Q(state=Cell.State.HELD, why__in=["off", "paused"]) | Q(state=Cell.State.WAITING)
    wake(Cell.objects.filter(waits, pairing=pairing))


def _decide_again(pairing: Pairing) -> None:
    """Decide again of what waits for a due date, or came after it."""
    waits = Cell.objects.filter(
        pairing=pairing, state=Cell.State.HELD, why__in=["due", "late", "no_due"]
    )
    wake(waits)


def _wake_returned(learners: Iterable[Any]) -> None:
    wake_returned(learners)


def _claim_strays(pairing: Pairing, account: str, learner: Learner) -> None:
    claim_strays(pairing, account, learner)


def _scores_of(pairing: Pairing) -> ScoresOf:
    cells = Cell.objects.filter(pairing=pairing)
    waiting = cells.filter(state__in=[Cell.State.WAITING, Cell.State.SENDING])
    return ScoresOf(cells.exclude(sent_at=None).count(), waiting.count())


def _relay(placement: Placement) -> None:
    enqueue_relay(placement.pairing_id)
