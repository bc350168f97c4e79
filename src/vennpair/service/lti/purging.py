"""What of launches has served its purpose."""

from __future__ import annotations

from datetime import datetime

from vennpair.service.kernel.purging import REMEMBERED
from vennpair.service.lti.models import LaunchState, ServiceToken, Ticket, UsedAssertion, UsedNonce


def delete_spent_launches(now: datetime) -> None:
    """Delete what belongs to launches that are over. An assertion lives an hour at most, so its id
    is remembered for longer than that.
    """
    LaunchState.objects.filter(made__lt=now - REMEMBERED).delete()
    UsedAssertion.objects.filter(seen__lt=now - REMEMBERED).delete()
    UsedNonce.objects.filter(seen__lt=now - REMEMBERED).delete()
    Ticket.objects.filter(made__lt=now - REMEMBERED).delete()
    ServiceToken.objects.filter(expires__lt=now).delete()
