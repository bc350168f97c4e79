"""Delete what has served its purpose: launch states, tickets, assertions and nonces, expired
tokens, kept answers, packages, exported scores, old findings.
"""

from __future__ import annotations

from datetime import datetime, timedelta

from django.conf import settings
from django.contrib.sessions.models import Session
from django.db import transaction
from django.db.models import Exists, OuterRef, Subquery
from django.utils import timezone

from vennpair.service.api.models import KeptAnswer
from vennpair.service.connect.models import SignedInBrowser, WrongPassword
from vennpair.service.content.models import Package
from vennpair.service.deploy.models import ColumnExport, Picking
from vennpair.service.lti.models import LaunchState, ServiceToken, Ticket, UsedAssertion, UsedNonce
from vennpair.service.reconcile.models import Comparison, Finding

# An assertion lives an hour at most, so its id must be remembered for longer than that.
REMEMBERED, ANSWERS_KEPT = timedelta(days=1), timedelta(days=7)
FINDINGS_KEPT = timedelta(days=200)  # a term and what follows it; the counts stay, for the trend
UPLOADS_KEPT = timedelta(days=2)  # within which a broken upload can go on


def purge() -> None:
    """Delete; what is still in force stays."""
    now = timezone.now()
    with transaction.atomic():
        LaunchState.objects.filter(made__lt=now - REMEMBERED).delete()
        UsedAssertion.objects.filter(seen__lt=now - REMEMBERED).delete()
        UsedNonce.objects.filter(seen__lt=now - REMEMBERED).delete()
        Ticket.objects.filter(made__lt=now - REMEMBERED).delete()
        ServiceToken.objects.filter(expires__lt=now).delete()
        Package.objects.filter(
            used_at__lt=now - timedelta(days=settings.PACKAGES_KEPT_DAYS)
        ).delete()
        Package.objects.filter(
            complete=False, imports=None, used_at__lt=now - UPLOADS_KEPT
        ).delete()
        Picking.objects.filter(made_at__lt=now - REMEMBERED).delete()
        ColumnExport.objects.filter(
            made_at__lt=now - timedelta(days=settings.PACKAGES_KEPT_DAYS)
        ).delete()  # learners' scores are not kept for ever
        KeptAnswer.objects.filter(made__lt=now - ANSWERS_KEPT).delete()
        Session.objects.filter(expire_date__lt=now).delete()
        SignedInBrowser.objects.exclude(
            Exists(Session.objects.filter(session_key=OuterRef("session_key")))
        ).delete()
        WrongPassword.objects.filter(last_at__lt=now - REMEMBERED).delete()
        _purge_comparisons(now)


def _purge_comparisons(now: datetime) -> None:
    """Delete the findings of old comparisons, never of a pairing's newest, and comparisons with
    files altogether.
    """
    Comparison.objects.exclude(given={}).filter(
        job__made_at__lt=now - timedelta(days=settings.PACKAGES_KEPT_DAYS)
    ).delete()
    newest = Comparison.objects.done().filter(pairing=OuterRef("pairing")).values("pk")[:1]
    spent = (
        Comparison.objects.done()
        .filter(at__lt=now - FINDINGS_KEPT)
        .exclude(pk=Subquery(newest))
        .exclude(matrix={})
    )
    Finding.objects.filter(comparison__in=spent.values("pk")).delete()
    spent.order_by().update(matrix={}, shares=[])
