"""Everything that is kept of one learner: handed out, or erased.

A learner is one person at one platform, in however many of its shells. Erasing takes away their
scores as we keep them, and their name wherever it is told; what is in gradebooks and at the
publisher is not ours and stays. The audit trail stays too, under a pseudonym.
"""

from __future__ import annotations

import json
import re
import secrets
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any

from django.core.serializers.json import DjangoJSONEncoder
from django.db import transaction
from django.db.models import Model, Q, QuerySet

from vennpair.service.connect.models import Platform
from vennpair.service.deploy.models import AverageSent, ColumnExport
from vennpair.service.kernel.audit.models import Event, Notice
from vennpair.service.kernel.audit.sealing import reseal
from vennpair.service.kernel.audit.trail import record
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.pair.models import Learner, LearnerMatch, Pairing
from vennpair.service.reconcile.models import Comparison, Finding, Note, SettleStep
from vennpair.service.relay.models import Cell, LedgerEntry, Passage, Stray
from vennpair.service.relay.queries import UNDELIVERED

LONG_ID = 8  # an id of so many characters is no other number by chance


@dataclass(frozen=True, slots=True)
class Known:
    """One person at one platform; ``rows`` are their parts in its shells."""

    platform: Platform
    rows: Sequence[Learner]
    shells: list[str] = field(default_factory=list)

    @property
    def ids(self) -> list[Any]:
        """Return the rows' ids."""
        return [each.pk for each in self.rows]

    @property
    def name(self) -> str:
        """Return what the platform calls them."""
        return next((each.name for each in self.rows if each.name), self.rows[0].subject)


def find(words: str) -> list[Known]:
    """Return who has that address, number, id of either side, or exactly that name."""
    fits = (
        Q(email__iexact=words)
        | Q(number=words)
        | Q(subject=words)
        | Q(sub=words)
        | Q(name__iexact=words)
    )
    found = Learner.objects.filter(fits).values_list("shell__platform", "sub").distinct()
    known = []
    for platform, sub in found.order_by("shell__platform", "sub"):
        rows = list(
            Learner.objects.filter(shell__platform=platform, sub=sub)
            .select_related("shell__platform__institution")
            .order_by("shell__label", "pk")
        )
        shells = [each.shell.label or each.shell.title for each in rows]
        known.append(Known(rows[0].shell.platform, rows, shells))
    return known


def _kept(known: Known) -> dict[str, QuerySet[Any]]:
    """Return all rows that are about the learner alone."""
    ids, subs = known.ids, [each.sub for each in known.rows]
    emails = {each.email for each in known.rows if each.email}
    return {
        "passages": Passage.objects.filter(cell__learner__in=ids),
        "cells": Cell.objects.filter(learner__in=ids),
        "reports": LedgerEntry.objects.filter(learner__in=ids),
        "reports_without_owner": Stray.objects.filter(account__in=subs),
        "totals_sent": AverageSent.objects.filter(learner__in=ids),
        "matches": LearnerMatch.objects.filter(learner__in=ids),
        "notes": Note.objects.filter(learner__in=ids),
        "findings": Finding.objects.filter(
            Q(person__in=ids) | Q(account__in=subs) | Q(email__in=emails)
        ),
    }


def export(known: Known) -> dict[str, Any]:
    """Return everything that is kept of a learner, as plain values by kind."""
    told = {
        "platform": known.platform.name,
        "learner": [_plain(each) for each in known.rows],
        **{kind: [_plain(each) for each in rows.iterator()] for kind, rows in _kept(known).items()},
        "settled": [_plain(each) for each in SettleStep.objects.filter(person__in=known.ids)],
        "activity": [_plain(each) for each in _telling(known)],
    }
    return dict(json.loads(json.dumps(told, cls=DjangoJSONEncoder)))


def undelivered(known: Known) -> int:
    """Return how many of their scores are not in the gradebook yet."""
    return Cell.objects.filter(learner__in=known.ids, state__in=UNDELIVERED).count()


def erase(known: Known, *, keep: bool = False) -> tuple[str, dict[str, int]]:
    """Erase a learner; return the pseudonym and how many rows of each kind went or were rewritten.

    ``keep``: only count. All or nothing.
    """
    pseudonym = f"erased learner {secrets.token_hex(4)}"
    with transaction.atomic():
        counts: Counter[str] = Counter()
        counts["events"] = _rewrite_trail(known, pseudonym)
        counts["texts"] = _rewrite_texts(known, pseudonym)
        for kind, rows in _kept(known).items():
            counts[kind] = rows.count()
            rows.delete()
        counts["learner"] = len(known.rows)
        Learner.objects.filter(pk__in=known.ids).delete()
        record(
            "learner.erased",
            f"{pseudonym[0].upper()}{pseudonym[1:]}: all that was kept of them is gone.",
            institution=known.platform.institution,
            after=dict(counts),
        )
        transaction.set_rollback(keep)
    return pseudonym, dict(counts)


@dataclass(frozen=True, slots=True)
class _Names:
    """What they are called by: ``told`` in the middle of a text too, ``ids`` as a whole value only,
    as a short number may be any number.
    """

    told: re.Pattern[str]
    ids: frozenset[str]

    def without(self, value: Any, pseudonym: str) -> Any:
        """Return plain values with every one of the names replaced wherever it is told."""
        if isinstance(value, str):
            return pseudonym if value in self.ids else self.told.sub(pseudonym, value)
        if isinstance(value, dict):
            return {
                self.without(key, pseudonym): self.without(each, pseudonym)
                for key, each in value.items()
            }
        return (
            [self.without(each, pseudonym) for each in value] if isinstance(value, list) else value
        )


def _names(known: Known) -> _Names:
    told, ids = set[str](), set[str]()
    for each in known.rows:
        told |= {each.name, each.email}
        ids |= {each.number, each.subject, each.sub, str(each.pk)}
        for match in each.matches.all():
            told |= {match.name, match.email}
            ids.add(match.student)
    told |= {each for each in ids if len(each) >= LONG_ID}
    longest_first = sorted((each for each in told if len(each) >= 2), key=len, reverse=True)
    any_of = "|".join(re.escape(each) for each in longest_first) or "(?!)"
    return _Names(re.compile(rf"(?<!\w)(?:{any_of})(?!\w)"), frozenset(filter(None, ids)))


def _telling(known: Known) -> list[Event]:
    """Return the events that name them."""
    names = _names(known)
    institution = known.platform.institution
    return [
        each
        for each in Event.objects.filter(institution=institution).order_by("pk").iterator()
        if names.without(_told(each), "") != _told(each)
    ]


def _told(event: Event) -> list[Any]:
    return [event.sentence, event.before, event.after]


def _rewrite_trail(known: Known, pseudonym: str) -> int:
    names, events = _names(known), _telling(known)
    for event in events:
        event.sentence, event.before, event.after = names.without(_told(event), pseudonym)
        event.sentence = event.sentence[:400]
    Event.objects.bulk_update(events, ["sentence", "before", "after"], batch_size=500)
    sealed = [each.number for each in events if each.number is not None]
    if sealed:
        reseal(known.platform.institution_id, min(sealed))
    return len(events)


def _rewrite_texts(known: Known, pseudonym: str) -> int:
    """Take the names out of what is told about several learners at once."""
    names = _names(known)
    pairings = Pairing.objects.filter(shell__in=[each.shell_id for each in known.rows])
    told: Iterable[tuple[QuerySet[Any], tuple[str, ...]]] = (
        (Comparison.objects.filter(pairing__in=pairings), ("matrix", "given", "sources")),
        (
            SettleStep.objects.filter(job__pairing__in=pairings),
            ("learner", "words", "memory", "facts"),
        ),
        (Finding.objects.filter(comparison__pairing__in=pairings), ("cause", "candidates")),
        (ColumnExport.objects.filter(pairing__in=pairings), ("text",)),
        (Notice.objects.filter(pairing__in=pairings), ("sentence", "body")),
        (Job.objects.filter(pairing__in=pairings), ("message", "remedy")),
    )
    return sum(_rewrite(rows, columns, names, pseudonym) for rows, columns in told)


def _rewrite(rows: QuerySet[Any], columns: tuple[str, ...], names: _Names, pseudonym: str) -> int:
    count = 0
    for row in rows.only("pk", *columns).iterator(200):
        before = {column: getattr(row, column) for column in columns}
        after = names.without(before, pseudonym)
        if after != before:
            rows.model._default_manager.filter(pk=row.pk).update(**after)
            count += 1
    return count


def _plain(row: Model) -> dict[str, Any]:
    return {each.attname: each.value_from_object(row) for each in row._meta.concrete_fields}
