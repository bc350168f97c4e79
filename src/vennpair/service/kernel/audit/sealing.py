"""The audit trail as a chain: each event's seal is a digest of it and of the seal before, so that a
row that was changed, taken out or put in afterwards is found.

Events are sealed a little after they are written, in one place at a time, so that writing them
waits for nothing. Whoever keeps the newest seal elsewhere can prove the whole chain against it.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator
from contextlib import suppress
from datetime import datetime, timedelta
from typing import Any

from django.core.serializers.json import DjangoJSONEncoder
from django.db import transaction

from vennpair.service.kernel.audit.models import Event
from vennpair.service.kernel.jobs.locks import Busy, only_one

RESTS = timedelta(seconds=30)  # for which the transactions of older events may still be open
AT_ONCE = 1_000


def seal_trail(now: datetime) -> int:
    """Seal what was written up to half a minute ago, of all institutions; return how many."""
    due = Event.objects.filter(number=None, at__lt=now - RESTS)
    count = 0
    for institution in due.order_by().values_list("institution", flat=True).distinct():
        with suppress(Busy), only_one(f"seal:{institution}"), transaction.atomic():
            count += _seal(institution, list(due.filter(institution=institution).order_by("pk")))
    return count


def first_break(institution: Any) -> tuple[int, str] | None:
    """Return the number at which an institution's chain is broken, and how; None where it holds."""
    before, expected = "", 1
    for event in _chain(institution):
        if event.number != expected:
            return expected, "an event is missing"
        if event.seal != _digest(event, before):
            return expected, "an event is not what was sealed"
        before, expected = event.seal, expected + 1
    return None


def _seal(institution: Any, events: list[Event]) -> int:
    last = Event.objects.filter(institution=institution, number__isnull=False)
    newest = last.order_by("-number").first()
    number, before = (newest.number or 0, newest.seal) if newest else (0, "")
    for event in events:
        number += 1
        event.number = number
        event.seal = before = _digest(event, before)
    Event.objects.bulk_update(events, ["number", "seal"], batch_size=AT_ONCE)
    return len(events)


def _chain(institution: Any) -> Iterator[Event]:
    rows = Event.objects.filter(institution=institution, number__isnull=False)
    return rows.order_by("number").iterator(AT_ONCE)


def _digest(event: Event, before: str) -> str:
    facts = [
        before,
        event.number,
        event.at,
        event.institution_id,
        event.who,
        event.verb,
        event.sentence,
        event.before,
        event.after,
    ]
    text = json.dumps(facts, cls=DjangoJSONEncoder, sort_keys=True, ensure_ascii=False)
    return hashlib.sha256(text.encode()).hexdigest()
