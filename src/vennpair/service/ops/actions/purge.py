"""Delete what has served its purpose: launch states, tickets, used assertions and nonces, expired tokens, kept answers."""

from __future__ import annotations

from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from vennpair.service.api.models import KeptAnswer
from vennpair.service.lti.models import LaunchState, ServiceToken, Ticket, UsedAssertion, UsedNonce

# An assertion lives an hour at most, so its id must be remembered for longer than that.
REMEMBERED, ANSWERS_KEPT = timedelta(days=1), timedelta(days=7)


def purge() -> None:
    """Delete; what is still in force stays."""
    now = timezone.now()
    with transaction.atomic():
        LaunchState.objects.filter(made__lt=now - REMEMBERED).delete()
        UsedAssertion.objects.filter(seen__lt=now - REMEMBERED).delete()
        UsedNonce.objects.filter(seen__lt=now - REMEMBERED).delete()
        Ticket.objects.filter(made__lt=now - REMEMBERED).delete()
        ServiceToken.objects.filter(expires__lt=now).delete()
        KeptAnswer.objects.filter(made__lt=now - ANSWERS_KEPT).delete()
