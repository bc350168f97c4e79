"""The calls of a relay: look what is in a column, send a score, look again.

No database here; all run in threads.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from vennpair.core.failures import Failure, FailureKind
from vennpair.core.reconcile.cells import Column, Mark
from vennpair.core.reconcile.numbers import decimals, plain, without_tail
from vennpair.core.relay.decide import overwrites
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.gateways.platform_calls import UNAUTHORISED
from vennpair.service.relay.claiming import Sending
from vennpair.standards.lti.grades import Result

CLASH, NOT_SHOWN, NO_COLUMN, NO_LEARNER = "clash", "not_shown", "no_column", "no_learner"
FEW = 3  # so many cells of a column are asked for one by one; more are cheaper as the whole column


@dataclass(frozen=True, slots=True)
class Look:
    """Cells of one column, before they are sent."""

    cells: tuple[Sending, ...]

    def __call__(self, gateway: PlatformGateway) -> list[Sending]:
        """Return the cells, those with a failure that would lose what a person typed.

        Raises OutsideError.
        """
        free = [each for each in self.cells if each.due.forced or each.score.given is None]
        asked = [each for each in self.cells if each not in free]
        if not asked:
            return free
        column = asked[0].column
        users = [each.score.user_id for each in asked]
        try:
            rows = (
                [row for user in users for row in gateway.results(column, user)]
                if len(asked) <= FEW
                else gateway.results(column)
            )
        except OutsideError as error:
            if error.failure.code != "gone":
                raise
            return [replace(each, failure=_column_gone(each)) for each in self.cells]
        shown = {row.user_id: row for row in rows}
        return [*free, *(_guard(each, shown.get(each.score.user_id)) for each in asked)]


@dataclass(frozen=True, slots=True)
class Send:
    """One score; ``hindered`` says whether the platform has closed meanwhile."""

    each: Sending
    hindered: Callable[[], Failure | None]

    def __call__(self, gateway: PlatformGateway) -> Failure | None:
        """Send it; return what came in between, None where the platform has it.

        Raises OutsideError where it is to be tried again.
        """
        try:
            gateway.send_score(self.each.column, self.each.score, self.hindered)
        except OutsideError as error:
            if error.failure.code == "stale":
                return self._newer(gateway)
            if error.failure.code == "gone":
                return _what_is_gone(gateway, self.each, error.failure)
            if error.failure.kind is FailureKind.LATER or error.failure.status == UNAUTHORISED:
                raise
            return error.failure
        return None

    def _newer(self, gateway: PlatformGateway) -> Failure | None:
        """The platform holds something newer: our own score, whose answer was lost, or somebody's
        word.
        """
        result = next(
            (
                row
                for row in gateway.results(self.each.column, self.each.score.user_id)
                if row.user_id == self.each.score.user_id
            ),
            None,
        )
        return None if _confirm(self.each, result) is None else _typed(result)


@dataclass(frozen=True, slots=True)
class ReadBack:
    """Whether the gradebook shows what it accepted."""

    each: Sending

    def __call__(self, gateway: PlatformGateway) -> Failure | None:
        """Return what is wrong, None where it is there as sent.

        Raises OutsideError where it cannot be read.
        """
        user = self.each.score.user_id
        return _confirm(
            self.each,
            next(
                (row for row in gateway.results(self.each.column, user) if row.user_id == user),
                None,
            ),
        )


Call = Look | Send | ReadBack


def with_patience(failure: Failure) -> Failure:
    """Return a failure as the relay takes it: a token that is not known, although it is new, is a
    passing trouble of the platform.
    """
    if failure.status != UNAUTHORISED:
        return failure
    return replace(
        failure,
        kind=FailureKind.LATER,
        code="token",
        remedy="It is tried again; if it lasts, ask an administrator to check the connection.",
    )


def looks(batch: Sequence[Sending]) -> list[Look]:
    """Return the looks before a batch: one a column."""
    columns: dict[str, list[Sending]] = {}
    for each in batch:
        columns.setdefault(each.column, []).append(each)
    return [Look(tuple(cells)) for cells in columns.values()]


def _guard(each: Sending, result: Result | None) -> Sending:
    due = each.due
    if result is None or result.score is None or each.score.given is None:
        return each
    ours = [*each.maybe]
    ours += [Mark(due.sent_given, due.sent_maximum)] if due.sent_given is not None else []
    if not overwrites(
        _column(result.maximum, result.score),
        result.score,
        ours,
        Mark(each.score.given, each.score.maximum),
    ):
        return each
    return replace(each, failure=_typed(result))


def _typed(result: Result | None) -> Failure:
    there = (
        "nothing"
        if result is None or result.score is None
        else plain(without_tail(result.score).normalize())
    )
    message = (
        f"Somebody typed {there} there since; Venn Pair does not overwrite it with the new score."
    )
    return Failure(
        FailureKind.NEVER,
        CLASH,
        message,
        "Compare the pairing and choose; sending again by force puts the publisher's score back.",
    )


def _confirm(each: Sending, result: Result | None) -> Failure | None:
    given = each.score.given
    if given is None:
        return None
    if (
        result is not None
        and result.score is not None
        and _column(result.maximum, result.score).shows(
            Mark(given, each.score.maximum), result.score
        )
    ):
        return None
    there = "nothing" if result is None or result.score is None else plain(result.score)
    message = f"The platform accepted the score, but its gradebook shows {there}."
    return Failure(
        FailureKind.NEVER,
        NOT_SHOWN,
        message,
        "Compare the pairing; the column may be locked or computed.",
    )


def _what_is_gone(gateway: PlatformGateway, each: Sending, failure: Failure) -> Failure:
    """Say whether it is the column that is gone, or the learner."""
    try:
        gateway.line_item(each.column)
    except OutsideError as error:
        if error.failure.code == "gone":
            return _column_gone(each)
        raise
    return Failure(
        FailureKind.NEVER,
        NO_LEARNER,
        failure.message,
        "The roster is read again every hour; once it lists this learner, the score goes.",
    )


def _column_gone(each: Sending) -> Failure:
    message = (
        f"The column of '{each.title}' is gone from the gradebook, so its scores have nowhere"
        " to go."
    )
    return Failure(
        FailureKind.NEVER,
        NO_COLUMN,
        message,
        "Look for changes on the Deploy page and make it again, or take the item back; its scores are"
        " kept.",
    )


def _column(points: Decimal, written: Decimal) -> Column:
    """Return how the gradebook writes this one value; it may round."""
    return Column(points, decimals(without_tail(written)), rounds=True)
