"""Scores from a file, where the publisher gives nothing else: into the same ledger."""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal
from fractions import Fraction
from typing import Any

from django.db import transaction

from vennpair.core.reconcile.learners import Learner as Matched
from vennpair.core.reconcile.learners import match
from vennpair.core.reconcile.numbers import rounded
from vennpair.core.reconcile.tables import Table
from vennpair.core.relay.decide import MOST_PLACES
from vennpair.service.connect.models import User
from vennpair.service.kernel.web.tables import read_upload
from vennpair.service.pair.actions.refresh_roster import refresh_roster
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.relay.actions.take_reports import Account, Taken, in_words, transaction_each
from vennpair.service.relay.models import LedgerEntry
from vennpair.standards.lti.grades import Score


def take_file(
    pairing: Pairing,
    name: str,
    data: bytes,
    actor: User,
    *,
    as_of: datetime,
    layout: str = "",
    class_id: str = "",
    dry_run: bool = False,
) -> dict[str, Any]:
    """Take a table of scores as the publisher's reports of ``as_of``; what the ledger says already
    is not taken again.

    A tidy CSV, a OneRoster 1.2 set, or a wide table with its layout. Raises Refused with the file,
    line and remedy, OutsideError.
    """
    require_instructor(actor, pairing.shell)
    table = read_upload(name, data, layout, class_id)
    roster = refresh_roster(pairing.shell)
    found = match(
        table.learners,
        [Matched(each.number or each.subject, each.email, each.name) for each in roster],
    )
    accounts = [_account(each) for each in table.learners]
    who = {accounts[left].key: roster[right] for left, right in found.pairs}
    rows = _rows(pairing, table, accounts, who, as_of)
    said = {
        "learners": len(table.learners),
        "matched": len(found.pairs),
        "items": len(table.items),
        "scores": sum(len(item.scores) for item in table.items),
        "changed": len(rows),
    }
    if dry_run:
        return said | {"words": f"{len(rows)} of {said['scores']} scores are new or changed."}
    taken: Taken = transaction_each(pairing, rows, who, LedgerEntry.Via.FILE)
    with transaction.atomic():
        record(
            "relay.file",
            f"Read from the file {name[:100]}, {in_words(taken)}.",
            pairing=pairing,
            actor=actor,
            after=said,
        )
    return said | {"words": in_words(taken)}


def _account(each: Matched) -> Account:
    return Account(each.id or each.email or each.name, each.name, each.email)


def _rows(
    pairing: Pairing,
    table: Table,
    accounts: list[Account],
    who: dict[str, Learner],
    as_of: datetime,
) -> list[tuple[str, Account, Score]]:
    newest: dict[tuple[str, Any], tuple[Decimal | None, Decimal | None]] = {}
    for title, learner, given, maximum in (
        LedgerEntry.objects.filter(pairing=pairing)
        .order_by("timestamp", "pk")
        .values_list("placement__item__title", "learner", "given", "maximum")
    ):
        newest[title, learner] = given, maximum
    rows = []
    for item in table.items:
        for position, score in item.scores.items():
            account = accounts[position]
            known = who.get(account.key)
            kept = None if score is None else rounded(Fraction(score), MOST_PLACES)
            if item.points and (
                known is None or newest.get((item.title, known.pk)) != (kept, item.points)
            ):
                rows.append((item.title, account, Score("", as_of, kept, item.points)))
    return rows
