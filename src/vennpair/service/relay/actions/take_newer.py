"""Before scores are sent again: what the publisher holds that is newer than what was reported."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction

from vennpair.gateways.http import OutsideError
from vennpair.service.content.models import Placement
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.relay.actions.pull_results import read_results
from vennpair.service.relay.actions.take_reports import Account, transaction_each
from vennpair.service.relay.claiming import reports_of
from vennpair.service.relay.models import LedgerEntry
from vennpair.standards.lti.grades import Score

Row = tuple[str, Account, Score]


@dataclass(slots=True)
class Newer:
    """Scores of the publisher that are newer than every report and differ from the last one;
    ``trouble`` where it could not be asked.
    """

    rows: list[Row] = field(default_factory=list)
    who: Mapping[str, Learner] = field(default_factory=dict)
    trouble: str = ""


def newer_at_publisher(pairing: Pairing) -> Newer:
    """Read the publisher's results; nothing is changed. Never raises for what it answers."""
    if not pairing.course.publisher.oneroster_url:
        return Newer(trouble=f"{pairing.course.publisher.name} tells no results.")
    try:
        results, who = read_results(pairing, "")
    except OutsideError as error:
        return Newer(trouble=error.failure.message)
    placed = {
        each.item.line_item: each
        for each in pairing.placements.filter(state=Placement.State.PLACED)
        .exclude(column_url="")
        .exclude(item__line_item="")
        .select_related("item")
    }
    meant = [
        (row, (placed[row[0]].pk, who[row[1].key].pk))
        for row in results
        if row[0] in placed and row[1].key in who
    ]
    reports = reports_of(pairing, {cell for _, cell in meant})
    rows = []
    for row, cell in meant:
        last = max(reports.get(cell, []), key=lambda each: each.timestamp, default=None)
        newer = last is None or (
            row[2].timestamp > last.timestamp
            and _share(row[2]) != _share_of(last.given, last.maximum)
        )
        if row[2].given is not None and newer:
            rows.append(row)
    return Newer(rows, who)


def take_newer(pairing: Pairing, newer: Newer) -> int:
    """Put what is newer into the ledger; return how many scores."""
    return transaction_each(pairing, newer.rows, newer.who, LedgerEntry.Via.PULL).new


def _share(score: Score) -> Fraction | None:
    return _share_of(score.given, score.maximum)


def _share_of(given: object, maximum: object) -> Fraction | None:
    if given is None or not maximum:
        return None
    return Fraction(str(given)) / Fraction(str(maximum))
