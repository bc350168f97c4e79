"""What Venn Pair itself remembers of a pairing's cells: what was reported, what counts by a rule of
ours, what was sent.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from django.db.models import Max

from vennpair.core.reconcile.cells import Mark
from vennpair.core.reconcile.facts import PublisherScore, SentFact
from vennpair.core.relay.decide import Counted, counting
from vennpair.core.relay.rules import Counts
from vennpair.service.pair.models import Pairing
from vennpair.service.reconcile.models import SettleStep
from vennpair.service.relay.actions.release import BY_HAND, BY_TIME
from vennpair.service.relay.claiming import reports_of
from vennpair.service.relay.models import Cell, Passage
from vennpair.service.relay.rule_lookup import Placed, placed_with_rules

ON_PURPOSE = {*BY_HAND, *BY_TIME, "not_relayed"}
LEDGER = "ledger"


@dataclass(slots=True)
class Memory:
    """By placement: what was sent, and what counts by the ledger.

    Both by the platform's own id of a learner.
    """

    sent: dict[str, dict[str, SentFact]] = field(default_factory=lambda: defaultdict(dict))
    chosen: dict[str, dict[str, PublisherScore]] = field(default_factory=lambda: defaultdict(dict))
    rules: dict[str, Placed] = field(default_factory=dict)

    def rounds(self, placement: str) -> bool:
        """Say whether we round what we send into the placement's column."""
        found = self.rules.get(placement)
        return found is not None and found.rule.places is not None


def memory_of(
    pairing: Pairing, *, from_ledger: bool, agreed: Collection[tuple[str, str]] = ()
) -> Memory:
    """Return the memory of every cell, without those that agree and of which nothing is asked: by
    placement and the platform's learner.

    Where an instructor chose which attempt counts, the ledger says what that is: the publisher's
    own number follows its own rule. ``from_ledger``: it speaks for the publisher everywhere, as
    that cannot be asked.
    """
    rules = placed_with_rules(pairing)
    memory = Memory(rules={str(key): each for key, each in rules.items()})
    ours = {
        str(key)
        for key, each in rules.items()
        if from_ledger or each.rule.counts is not Counts.PUBLISHER
    }
    cells = _asked_of(pairing, rules, ours, agreed)
    reports = reports_of(pairing, {(cell.placement_id, cell.learner_id) for cell in cells})
    refused_at, settled = _last_refusals(pairing), _settled(pairing)
    for cell in cells:
        key, learner = str(cell.placement_id), cell.learner.subject
        counts = rules[cell.placement_id].rule.counts
        reported = reports[cell.placement_id, cell.learner_id]
        counted = counting(reported, counts)
        newest = (each.arrived for each in reported if counted and each.entry == counted.newest)
        memory.sent[key][learner] = _sent(
            cell,
            counted,
            next(newest, None),
            refused_at.get(cell.pk),
            (cell.placement_id, cell.learner_id, cell.sent_at) in settled,
        )
        speaks = from_ledger or counts is not Counts.PUBLISHER
        if speaks and counted is not None and counted.given is not None:
            memory.chosen[key][learner] = PublisherScore(
                Mark(counted.given.normalize(), counted.maximum),
                counted.timestamp.isoformat(),
                LEDGER,
            )
    return memory


def _asked_of(
    pairing: Pairing,
    placements: Collection[Any],
    ours: Collection[str],
    agreed: Collection[tuple[str, str]],
) -> list[Cell]:
    """Return the cells of which something may be asked: all of ``ours``, and of the other
    placements those that do not agree.
    """
    index = Cell.objects.filter(pairing=pairing, placement__in=placements).values_list(
        "pk", "placement_id", "learner__subject"
    )
    wanted = [
        pk
        for pk, placement, subject in index
        if str(placement) in ours or (str(placement), subject) not in agreed
    ]
    return list(Cell.objects.filter(pk__in=wanted).select_related("learner"))


def _last_refusals(pairing: Pairing) -> dict[int, datetime]:
    """Return when the platform last refused each cell."""
    refused = Passage.objects.filter(pairing=pairing, what=Passage.What.REFUSED).order_by()
    return dict(refused.values("cell").annotate(last=Max("at")).values_list("cell", "last"))


def _settled(pairing: Pairing) -> set[tuple[Any, Any, datetime | None]]:
    """Return which cells a settlement wrote, and when."""
    done = SettleStep.objects.filter(
        job__pairing=pairing, scope="cell", state=SettleStep.State.DONE
    )
    return set(done.values_list("placement_id", "person_id", "done_at"))


def _sent(
    cell: Cell, counted: Counted | None, arrived: Any, refused_at: Any, settled: bool
) -> SentFact:
    mark = (
        Mark(cell.sent_given.normalize(), cell.sent_maximum.normalize())
        if cell.sent_given is not None and cell.sent_maximum is not None
        else None
    )
    refused = cell.reason if cell.state == Cell.State.REFUSED else ""
    held = cell.reason if cell.state == Cell.State.HELD and cell.why in ON_PURPOSE else ""
    newest = counted.given if counted else None
    return SentFact(
        mark,
        cell.sent_at,
        refused,
        refused_at if refused else None,
        newest,
        arrived,
        held,
        settled,
        taken_back=counted is not None and counted.given is None,
    )
