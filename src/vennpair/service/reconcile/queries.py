"""Pairings with what their newest comparison found, in one query however many there are."""

from __future__ import annotations

from typing import Any

from django.db.models import F, IntegerField, OuterRef, Prefetch, QuerySet, Subquery, Value
from django.db.models.fields.json import KT
from django.db.models.functions import Cast, Coalesce

from vennpair.service.pair.models import Pairing, ShellRole
from vennpair.service.pair.queries import pairings_for
from vennpair.service.reconcile.models import Comparison


def agreement_listed(user: Any) -> QuerySet[Pairing]:
    """Return somebody's pairings that have not ended, each with its newest comparison and how the
    last one asked for went.
    """
    done = Comparison.objects.done().filter(pairing=OuterRef("pk"))
    last = Comparison.objects.live().filter(pairing=OuterRef("pk")).order_by("-job__made_at")
    urgent = Cast(KT("summary__urgent"), IntegerField())
    teaching = ShellRole.objects.filter(role="instructor").select_related("user").order_by("pk")
    return (
        pairings_for(user)
        .exclude(state=Pairing.State.ENDED)
        .annotate(
            compared=Subquery(done.values("summary")[:1]),
            compared_at=Subquery(done.values("at")[:1]),
            urgent=Coalesce(Subquery(done.annotate(urgent=urgent).values("urgent")[:1]), Value(0)),
            last_state=Subquery(last.values("job__state")[:1]),
            last_message=Subquery(last.values("job__message")[:1]),
            asked=F("schedule__asked_at"),
        )
        .prefetch_related(Prefetch("shell__roles", teaching, to_attr="teaching"))
    )


def comparable(user: Any) -> QuerySet[Pairing]:
    """Return somebody's pairings that can be compared now."""
    return pairings_for(user).filter(state__in=[Pairing.State.LIVE, Pairing.State.PAUSED])
