"""Reports that are fetched or uploaded instead of pushed: into the same ledger.

Whose account nobody has waits until somebody says so.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import transaction

from vennpair.core.relay.decide import untakable
from vennpair.service.content.models import Placement
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.relay.actions.receive_score import digest_of, receive_score
from vennpair.service.relay.models import LedgerEntry, Stray
from vennpair.standards.lti.grades import Score, read_score, write_score


@dataclass(frozen=True, slots=True)
class Account:
    """Whose score it is, as the publisher knows them."""

    key: str
    name: str = ""
    email: str = ""


@dataclass(slots=True)
class Taken:
    """What became of reports: new in the ledger, known before, of nobody's account, of an item
    without a column, not to be taken.
    """

    new: int = 0
    known: int = 0
    unclaimed: int = 0
    unplaced: int = 0
    odd: int = 0


def take_reports(
    pairing: Pairing,
    rows: Iterable[tuple[str, Account, Score]],
    who: Mapping[str, Learner],
    via: str,
) -> Taken:
    """Take rows of line item (or item's title), account and score.

    ``who`` says by account's key which learner it is.
    """
    placed = {}
    for each in (
        Placement.objects.filter(pairing=pairing, state=Placement.State.PLACED)
        .exclude(column_url="")
        .select_related("item", "pairing")
    ):
        placed[each.item.line_item or each.item.title] = placed[each.item.title] = each
    taken = Taken()
    for line_item, account, score in rows:
        placement, learner = placed.get(line_item), who.get(account.key)
        if placement is None:
            taken.unplaced += 1
        elif untakable(score.given, score.maximum, score.timestamp, score.submitted):
            taken.odd += 1
        elif learner is None:
            taken.unclaimed += _keep_stray(placement, account, score)
        elif receive_score(placement, learner, score, via):
            taken.new += 1
        else:
            taken.known += 1
    return taken


def _keep_stray(placement: Placement, account: Account, score: Score) -> int:
    stamped = f"{digest_of(score)[:20]}{score.timestamp.timestamp():.0f}"[:40]
    _, made = Stray.objects.get_or_create(
        placement=placement,
        account=account.key[:255],
        digest=stamped,
        defaults={
            "name": account.name[:200],
            "email": account.email[:254],
            "report": write_score(score),
        },
    )
    return int(made)


def claim_strays(pairing: Pairing, account: str, learner: Learner) -> int:
    """Put what waited for an account into the ledger as a learner's, in the caller's transaction.

    Return how many reports.
    """
    strays = list(
        Stray.objects.select_for_update(of=("self",))
        .filter(placement__pairing=pairing, account=account)
        .select_related("placement__pairing")
        .order_by("received_at")
    )
    for each in strays:
        receive_score(
            each.placement,
            learner,
            read_score(each.report | {"userId": str(learner.pk)}),
            LedgerEntry.Via.PULL,
        )
        each.delete()
    return len(strays)


def moment_of(text: str, otherwise: datetime) -> datetime:
    """Return a time with its zone, or another where there is none."""
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        return otherwise
    return found if found.tzinfo else otherwise


def in_words(taken: Taken) -> str:
    """Return what became of reports, in words."""
    parts = [
        f"{taken.new} new",
        f"{taken.known} known before" if taken.known else "",
        f"{taken.unclaimed} of accounts that nobody in the shell has" if taken.unclaimed else "",
        f"{taken.unplaced} of items without a column" if taken.unplaced else "",
        f"{taken.odd} left out, as their number or time is out of range" if taken.odd else "",
    ]
    return "scores: " + ", ".join(part for part in parts if part)


def transaction_each(
    pairing: Pairing,
    rows: list[tuple[str, Account, Score]],
    who: Mapping[str, Learner],
    via: str,
    size: int = 200,
) -> Taken:
    """Take many rows, so many in one transaction.

    Killed between two, the same rows again find the first ones known.
    """
    whole = Taken()
    for start in range(0, len(rows), size):
        with transaction.atomic():
            part: Any = take_reports(pairing, rows[start : start + size], who, via)
        for name in ("new", "known", "unclaimed", "unplaced", "odd"):
            setattr(whole, name, getattr(whole, name) + getattr(part, name))
    return whole
