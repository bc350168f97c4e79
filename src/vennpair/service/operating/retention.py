"""What of ended pairings is kept for how long."""

from __future__ import annotations

from datetime import datetime

from vennpair.service.kernel.purging import before, spent
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.models import Cell, LedgerEntry, Passage, Stray


def delete_old_scores(now: datetime) -> dict[str, int]:
    """Delete the ledger of pairings that ended long ago, where an operator set that it ends at all;
    what is in their gradebooks stays.
    """
    since = before(now, "LEDGER")
    if since is None:
        return {}
    over = Pairing.objects.filter(state=Pairing.State.ENDED, ended_at__lt=since)
    passages = spent(Passage.objects.filter(pairing__in=over))
    cells = spent(Cell.objects.filter(pairing__in=over))
    reports = spent(LedgerEntry.objects.filter(pairing__in=over))
    strays = spent(Stray.objects.filter(placement__pairing__in=over))
    return {"passages": passages, "cells": cells, "reports": reports + strays}
