"""Send again: compare with the gradebook first, then queue what differs, or all of it by force."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from django.db import transaction
from django.db.models import Q, QuerySet
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.reconcile.cells import Column, Mark
from vennpair.core.reconcile.numbers import decimals, without_tail
from vennpair.core.relay.decide import counting, to_send
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.concurrency import Outcome, run_concurrently
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.relay.claiming import reports_of
from vennpair.service.relay.models import Cell, Passage
from vennpair.service.relay.rule_lookup import Placed, placed_with_rules
from vennpair.service.relay.scheduling import wake
from vennpair.standards.lti.grades import Result


@dataclass(frozen=True, slots=True)
class Wanted:
    """Which cells are meant: all, or those of learners, items (placements) and a category."""

    learners: Sequence[Any] = ()
    placements: Sequence[Any] = ()
    category: str | None = None


@dataclass(slots=True)
class Compared:
    """What the gradebook holds against what counts: cells that differ, that agree, and how many
    could not be read.
    """

    differ: list[int] = field(default_factory=list)
    same: list[int] = field(default_factory=list)
    unread: int = 0
    trouble: str = ""


def compare_cells(pairing: Pairing, wanted: Wanted) -> Compared:
    """Look at the gradebook for every meant cell that has a counting score.

    Columns are read side by side; raises Refused.
    """
    placed = placed_with_rules(pairing)
    cells = list(
        _meant(pairing, wanted, placed).select_related("learner").order_by("placement_id", "pk")
    )
    scores = _counting(pairing, cells, placed)
    by_column: dict[Any, list[Cell]] = {}
    for cell in cells:
        if cell.pk in scores:
            by_column.setdefault(cell.placement_id, []).append(cell)
    gateway, found = shell_gateway(pairing.shell), Compared()

    def settle(outcomes: list[Outcome[Any, list[Result]]]) -> None:
        for placement, rows in outcomes:
            if isinstance(rows, OutsideError):
                found.unread, found.trouble = (
                    found.unread + len(by_column[placement]),
                    rows.failure.message,
                )
                continue
            shown = {row.user_id: row for row in rows}
            for cell in by_column[placement]:
                (
                    found.same
                    if _shows(shown.get(cell.learner.subject), scores[cell.pk])
                    else found.differ
                ).append(cell.pk)

    try:
        run_concurrently(
            list(by_column),
            lambda placement: gateway.results(placed[placement].placement.column_url),
            settle,
            lambda: True,
        )
    except OutsideError as error:
        raise Refused(
            error.failure.code,
            f"The gradebook cannot be compared now. {error.failure.message}",
            error.failure.remedy,
            503,
        ) from error
    return found


def send_again(pairing: Pairing, actor: User, wanted: Wanted, *, force: bool = False) -> int:
    """Queue what differs; with ``force`` all that has a score, over whatever was typed there.
    Return how many.

    Raises Refused where the relay is off or the pairing is not live.
    """
    require_sending(pairing, actor)
    compared = compare_cells(pairing, wanted)
    chosen = [*compared.differ, *(compared.same if force else [])]
    return _queue(pairing, actor, chosen, force)


def require_sending(pairing: Pairing, actor: User) -> None:
    """Raise Refused where the relay is off, the pairing is not live, or somebody may not."""
    require_instructor(actor, pairing.shell)
    if not pairing.relay_on or pairing.state != Pairing.State.LIVE:
        raise Refused(
            "relay_off",
            "The relay of this pairing is off, so nothing is sent.",
            "Turn the relay on first.",
        )


def _queue(pairing: Pairing, actor: User, chosen: Sequence[int], force: bool) -> int:
    with transaction.atomic():
        count = wake(
            Cell.objects.filter(pk__in=chosen),
            again=Cell.Again.FORCE if force else Cell.Again.DIFFERS,
        )
        words = "by force" if force else "as the gradebook shows something else"
        record(
            "relay.again",
            f"{many(count, 'score was', 'scores were')} queued to be sent again {words}.",
            pairing=pairing,
            actor=actor,
            after={"cells": count, "forced": force},
        )
        _note(pairing, chosen, words)
    return count


def _note(pairing: Pairing, chosen: Sequence[int], words: str) -> None:
    now = timezone.now()
    Passage.objects.bulk_create(
        [
            Passage(pairing=pairing, cell_id=pk, what=Passage.What.AGAIN, at=now, words=words)
            for pk in chosen
        ]
    )


def _meant(pairing: Pairing, wanted: Wanted, placed: dict[Any, Placed]) -> QuerySet[Cell]:
    cells = Cell.objects.filter(pairing=pairing, placement__in=placed)
    if wanted.learners:
        cells = cells.filter(learner__in=wanted.learners)
    if wanted.placements:
        cells = cells.filter(placement__in=wanted.placements)
    if wanted.category is not None:
        cells = cells.filter(
            Q(placement__category=wanted.category)
            | Q(placement__category="", placement__item__category=wanted.category)
        )
    return cells


def _counting(
    pairing: Pairing, cells: Sequence[Cell], placed: dict[Any, Placed]
) -> dict[int, Mark]:
    reports, found = (
        reports_of(pairing, {(cell.placement_id, cell.learner_id) for cell in cells}),
        {},
    )
    for cell in cells:
        each = placed[cell.placement_id]
        counted = counting(reports[cell.placement_id, cell.learner_id], each.rule.counts)
        if counted is not None and counted.given is not None:
            found[cell.pk] = to_send(counted, each.rule, each.points)
    return found


def _shows(result: Result | None, mark: Mark) -> bool:
    if result is None or result.score is None:
        return False
    return Column(result.maximum, decimals(without_tail(result.score)), rounds=True).shows(
        mark, result.score
    )
