"""A placement has a new column: what its learners have earned so far goes there."""

from __future__ import annotations

from vennpair.service.content.models import Placement
from vennpair.service.relay.models import Cell
from vennpair.service.relay.scheduling import wake


def fill_new_column(placement: Placement) -> None:
    """Queue every score of a placement, in the caller's transaction.

    Nothing of it is in the new column.
    """
    wake(
        Cell.objects.filter(placement=placement),
        sent_given=None,
        sent_maximum=None,
        sent_timestamp=None,
        sent_at=None,
    )
