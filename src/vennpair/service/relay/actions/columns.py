"""The calls of a relay, column by column: look what stands there, send, look again. No database here."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from concurrent.futures import Executor
from dataclasses import dataclass, replace
from decimal import Decimal

from django.utils import timezone

from vennpair.core.failures import Failure, FailureKind
from vennpair.core.reconcile.cells import Column, Mark
from vennpair.core.reconcile.numbers import decimals, plain, without_tail
from vennpair.core.relay.decide import overwrites
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.relay.models import Cell
from vennpair.standards.lti.grades import Result, Score

CLASH = "clash"


@dataclass(frozen=True, slots=True)
class Sending:
    """A cell on its way with the score that counts; ``failure`` once something came in between."""

    cell: Cell
    score: Score
    failure: Failure | None = None


def look_first(gateway: PlatformGateway, threads: Executor, batch: Sequence[Sending]) -> list[Sending]:
    """Hold back what would take away a value that a person typed; nobody's entry is overwritten unasked."""
    return _with_results(gateway, threads, [*batch], _guard, lambda each, failure: replace(each, failure=failure))


def send(gateway: PlatformGateway, each: Sending) -> Sending:
    """Make one call, unless something came in between; runs in a thread."""
    if each.failure is not None:
        return each
    try:
        # A score forced back into a cell that somebody typed over must be newer than what stands there.
        score = replace(each.score, timestamp=timezone.now()) if each.cell.force else each.score
        gateway.send_score(each.cell.placement.column_url, score)
    except OutsideError as error:
        return replace(each, failure=error.failure)
    return each


def read_back(gateway: PlatformGateway, threads: Executor, sent: Sequence[Sending]) -> list[Sending]:
    """Look whether the gradebook shows what it accepted; where it cannot be read now, a comparison will look again."""
    return _with_results(gateway, threads, sent, _confirm, lambda each, failure: each)


def _with_results(gateway: PlatformGateway, threads: Executor, batch: Sequence[Sending], judge: Callable[[Sending, Result | None], Sending], unread: Callable[[Sending, Failure], Sending]) -> list[Sending]:
    """Read each column once for all its cells, columns in parallel, and judge every cell that is still going."""
    columns: dict[str, list[Sending]] = defaultdict(list)
    for each in batch:
        columns[each.cell.placement.column_url].append(each)

    def read(group: tuple[str, list[Sending]]) -> list[Sending]:
        url, cells = group
        if all(each.failure for each in cells):
            return cells
        try:
            shown = {result.user_id: result for result in gateway.results(url)}
        except OutsideError as error:
            failure = error.failure
            return [each if each.failure else unread(each, failure) for each in cells]
        return [each if each.failure else judge(each, shown.get(each.score.user_id)) for each in cells]

    return [each for group in threads.map(read, columns.items()) for each in group]


def _guard(each: Sending, result: Result | None) -> Sending:
    cell = each.cell
    if cell.force or result is None or result.score is None or each.score.given is None:
        return each
    sent = Mark(cell.sent_given, cell.sent_maximum) if cell.sent_given is not None else None
    if not overwrites(_column(result.maximum, result.score), result.score, sent, Mark(each.score.given, each.score.maximum)):
        return each
    message = f"Somebody typed {plain(without_tail(result.score).normalize())} there since; Venn Pair does not overwrite it with the new score."
    return replace(each, failure=Failure(FailureKind.NEVER, CLASH, message, "Compare the pairing and choose; sending again by force puts the publisher's score back."))


def _confirm(each: Sending, result: Result | None) -> Sending:
    given = each.score.given
    if result is not None and result.score is not None and given is not None and _column(result.maximum, result.score).shows(Mark(given, each.score.maximum), result.score):
        return each
    there = "nothing" if result is None or result.score is None else plain(result.score)
    message = f"The platform accepted the score, but its gradebook shows {there}."
    return replace(each, failure=Failure(FailureKind.NEVER, "not_shown", message, "Compare the pairing; the column may be locked or computed."))


def _column(points: Decimal, written: Decimal) -> Column:
    """Return how the gradebook writes this one value; it may round."""
    return Column(points, decimals(without_tail(written)), rounds=True)
