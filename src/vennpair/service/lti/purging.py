"""What of launches has served its purpose."""

from __future__ import annotations

from datetime import datetime

from vennpair.service.kernel.purging import REMEMBERED, spent
from vennpair.service.lti.models import LaunchState, ServiceToken, Ticket, UsedAssertion, UsedNonce


def delete_spent_launches(now: datetime) -> dict[str, int]:
    """Delete what belongs to launches that are over. An assertion lives an hour at most, so its id
    is remembered for longer than that.
    """
    over = now - REMEMBERED
    launches = (
        LaunchState.objects.filter(made__lt=over),
        UsedAssertion.objects.filter(seen__lt=over),
        UsedNonce.objects.filter(seen__lt=over),
        Ticket.objects.filter(made__lt=over),
        ServiceToken.objects.filter(expires__lt=now),
    )
    return {"marks of launches": sum(spent(rows) for rows in launches)}
