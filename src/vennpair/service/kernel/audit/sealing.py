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

from vennpair.service.kernel.apart import apart
from vennpair.service.kernel.audit.models import Event
from vennpair.service.kernel.jobs.locks import Busy, only_one

RESTS = timedelta(seconds=30)  # for which the transactions of older events may still be open
AT_ONCE = 1_000
SHORTENED, SHORTENED_EACH = "trail.shortened", timedelta(days=1)


def seal_trail(now: datetime) -> int:
    """Seal what was written up to half a minute ago, of all institutions; return how many."""
    due = Event.objects.filter(number=None, at__lt=now - RESTS)

    def seal(institution: Any) -> int:
        with suppress(Busy), only_one(f"seal:{institution}"), transaction.atomic():
            return _seal(institution, list(due.filter(institution=institution).order_by("pk")))
        return 0

    institutions = due.order_by().values_list("institution", flat=True).distinct()
    return sum(apart(list(institutions), seal, "sealing the trail", transacts=False))


def first_break(institution: Any) -> tuple[int, str] | None:
    """Return the number at which an institution's chain is broken, and how; None where it holds."""
    before, expected = _beginning(institution)
    for event in _chain(institution):
        if event.number != expected:
            return expected, "an event is missing"
        if event.seal != _digest(event, before):
            return expected, "an event is not what was sealed"
        before, expected = event.seal, expected + 1
    return None


def reseal(institution: Any, number: int) -> None:
    """Seal an institution's events again from a number on, in the caller's transaction: after a
    person was taken out of them, which the law asks for and the trail says.
    """
    chain = Event.objects.filter(institution=institution, number__isnull=False)
    last = chain.filter(number__lt=number).order_by("-number").first()
    before = last.seal if last else _beginning(institution)[0]
    changed = []
    for event in chain.filter(number__gte=number).order_by("number").iterator(AT_ONCE):
        event.seal = before = _digest(event, before)
        changed.append(event)
    Event.objects.bulk_update(changed, ["seal"], batch_size=AT_ONCE)


def shorten(institution: Any, since: datetime) -> int:
    """Delete an institution's sealed events of before a moment; return how many. An event that is
    sealed after them says with which number and seal the trail ended that went, so that the rest
    can be proved from there.
    """
    with suppress(Busy), only_one(f"seal:{institution}"), transaction.atomic():
        rows = Event.objects.filter(institution=institution, number__isnull=False)
        last = rows.filter(at__lt=since).order_by("-number").first()
        if last is None or not rows.filter(at__lt=since - SHORTENED_EACH).exists():
            return 0
        gone, _ = rows.filter(number__lte=last.number).delete()
        Event.objects.create(
            verb=SHORTENED,
            sentence=f"What was recorded before {since:%Y-%m-%d} was deleted, as the service is set.",
            institution_id=institution,
            after={"number": last.number, "seal": last.seal},
        )
        return gone
    return 0


def _beginning(institution: Any) -> tuple[str, int]:
    """Return the seal before the first event that is there, and the number that it must have."""
    marks = Event.objects.filter(institution=institution, verb=SHORTENED)
    mark = marks.order_by("-pk").first()
    after = mark.after if mark else None
    return (after["seal"], after["number"] + 1) if after else ("", 1)


def _seal(institution: Any, events: list[Event]) -> int:
    last = Event.objects.filter(institution=institution, number__isnull=False)
    newest = last.order_by("-number").first()
    if newest is None or newest.number is None:  # none yet, or all that were sealed were deleted
        before, first = _beginning(institution)
    else:
        before, first = newest.seal, newest.number + 1
    for number, event in enumerate(events, first):
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
