"""The outside calls that settle a cell or a column: look, write, read back.

No database here; cells run in threads.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime
from decimal import Decimal

from vennpair.core.deploy.dates import same_moment
from vennpair.core.failures import FailureKind
from vennpair.core.reconcile.cells import Column, Mark
from vennpair.core.reconcile.numbers import decimals, shortest, without_tail
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.content.gradebook_order import category_in
from vennpair.service.operations.steps import StepState
from vennpair.standards.lti.grades import LineItem, Result, Score
from vennpair.standards.outline.gradebook import Gradebook

POINTS = ("points_differ", "points_missing")
DONE, LEFT, FAILED = StepState.DONE, StepState.LEFT, StepState.FAILED


@dataclass(frozen=True, slots=True)
class Came:
    """What came of a step: its state, what is there now, and a sentence."""

    state: str
    there: str | None
    message: str = ""
    at: datetime | None = None


@dataclass(frozen=True, slots=True)
class WriteCell:
    """Write one score, or empty the cell where ``given`` is None, if it still holds ``before``."""

    column: str
    user: str
    before: Decimal | None
    given: Decimal | None
    maximum: Decimal | None
    clock: Callable[[], datetime]

    def __call__(self, gateway: PlatformGateway) -> Came:
        """Look, write, read back. Doing it again after a crash writes nothing twice.

        Raises OutsideError where it is to be tried again.
        """
        try:
            there = self._read(gateway)
            if self._is_written(there):
                return Came(DONE, _shown(there), "It was there already.", self.clock())
            if (there.score if there else None) != self.before:
                return Came(
                    LEFT,
                    _shown(there),
                    f"Since the comparison it has become {_shown(there) or 'empty'}, so nothing was"
                    " written. Compare again.",
                )
            when = self.clock()
            grading = (
                ("Completed", "FullyGraded")
                if self.given is not None
                else ("Initialized", "NotReady")
            )
            gateway.send_score(
                self.column,
                Score(
                    self.user,
                    when,
                    self.given,
                    self.maximum if self.given is not None else None,
                    *grading,
                ),
            )
            there = self._read(gateway)
        except OutsideError as error:
            if error.failure.kind is FailureKind.LATER:
                raise
            return Came(FAILED, None, f"{error.failure.message} {error.failure.remedy}".strip())
        if self._is_written(there):
            return Came(DONE, _shown(there), "", when)
        return Came(
            FAILED,
            _shown(there),
            f"The platform accepted it, but its gradebook shows {_shown(there) or 'nothing'}; the"
            " column may be locked or computed.",
            when,
        )

    def _read(self, gateway: PlatformGateway) -> Result | None:
        return next(
            (row for row in gateway.results(self.column, self.user) if row.user_id == self.user),
            None,
        )

    def _is_written(self, there: Result | None) -> bool:
        score = there.score if there else None
        if self.given is None or score is None or there is None:
            return self.given is None and score is None
        return Column(there.maximum, decimals(without_tail(score)), rounds=True).shows(
            Mark(self.given, self.maximum), score
        )


@dataclass(frozen=True, slots=True)
class WriteColumn:
    """Bring one thing that a column says, by the finding's kind, from ``before`` to ``after``."""

    column: str
    kind: str
    before: str
    after: str
    outline: str = ""

    def __call__(self, gateway: PlatformGateway) -> Came:
        """Look, write, read back. Raises OutsideError where it is to be tried again."""
        try:
            said = self._said(gateway)
            if _same(said, self.after):
                return Came(DONE, said, "It was there already.")
            if not _same(said, self.before):
                return Came(
                    LEFT,
                    said,
                    f"Since the comparison it has become {said or 'empty'}, so nothing was written."
                    " Compare again.",
                )
            self._write(gateway)
            said = self._said(gateway)
        except OutsideError as error:
            if error.failure.kind is FailureKind.LATER:
                raise
            return Came(FAILED, None, f"{error.failure.message} {error.failure.remedy}".strip())
        return (
            Came(DONE, said)
            if _same(said, self.after)
            else Came(
                FAILED, said, f"The platform accepted it, but still says {said or 'nothing'}."
            )
        )

    def _said(self, gateway: PlatformGateway) -> str:
        if self.kind == "category_differs":
            return gateway.gradebook(self.outline).title_of(self.column)
        item = gateway.line_item(self.column)
        points = shortest(item.score_maximum)
        return {
            "points_differ": points,
            "points_missing": points,
            "title_differs": item.label,
            "due_differs": item.end,
        }[self.kind]

    def _write(self, gateway: PlatformGateway) -> None:
        if self.kind == "category_differs":
            gateway.rearrange_gradebook(self.outline, lambda book: self._categorised(gateway, book))
            return
        item: LineItem = gateway.line_item(self.column)
        if self.kind in POINTS:
            item = replace(item, score_maximum=Decimal(self.after))
        elif self.kind == "title_differs":
            item = replace(item, label=self.after)
        else:
            item = replace(item, end=self.after)
        gateway.change_line_item(item)

    def _categorised(self, gateway: PlatformGateway, book: Gradebook) -> Gradebook:
        category, book = category_in(
            gateway, self.outline, book, self.after, f"settle:{self.column}:{self.after}"
        )
        return replace(book, category_of={**(book.category_of or {}), self.column: category})


@dataclass(frozen=True, slots=True)
class MakeColumn:
    """Make the column of a placed item that lost it, by Assignment and Grade Services alone.

    ``wanted`` names the placement as its ``resourceId``, by which a column that an earlier try made
    is found. ``category`` is set where the platform tells of categories, in ``outline``.
    """

    columns: str
    wanted: LineItem
    category: str = ""
    outline: str = ""

    def __call__(self, gateway: PlatformGateway) -> Came:
        """Look, make, read back; ``there`` is the column's address.

        Raises OutsideError where it is to be tried again.
        """
        try:
            there = gateway.ensure_line_item(self.columns, self.wanted)
            if not _is_as(there, self.wanted):
                gateway.change_line_item(replace(self.wanted, id=there.id))
            there = gateway.line_item(there.id)
            if self.category and self.outline:
                self._categorise(gateway, there.id)
        except OutsideError as error:
            if error.failure.kind is FailureKind.LATER:
                raise
            return Came(FAILED, None, f"{error.failure.message} {error.failure.remedy}".strip())
        if _is_as(there, self.wanted):
            return Came(DONE, there.id)
        return Came(
            FAILED,
            there.id,
            f"The platform made a column, but it is '{there.label}' of"
            f" {shortest(there.score_maximum)} points.",
        )

    def _categorise(self, gateway: PlatformGateway, column: str) -> None:
        def categorised(book: Gradebook) -> Gradebook:
            key = f"settle:{column}:{self.category}"
            category, book = category_in(gateway, self.outline, book, self.category, key)
            return replace(book, category_of={**(book.category_of or {}), column: category})

        gateway.rearrange_gradebook(self.outline, categorised)


def _is_as(there: LineItem, wanted: LineItem) -> bool:
    """Say whether a column is called and worth what was asked for."""
    return (there.label, there.score_maximum) == (wanted.label, wanted.score_maximum)


def _same(one: str, other: str) -> bool:
    return one == other or (bool(one) and same_moment(one, other))


def _shown(there: Result | None) -> str | None:
    return None if there is None or there.score is None else shortest(there.score)
