"""Two tables of scores compared without a memory of what was sent: the file-to-file comparison."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from fractions import Fraction
from itertools import compress, repeat
from operator import is_, not_
from typing import Any

from vennpair.core.reconcile.cells import Column, Mark, judge
from vennpair.core.reconcile.columns import findings, match_titles
from vennpair.core.reconcile.learners import Learner, Matching, match
from vennpair.core.reconcile.numbers import written_decimals

_ABSENT: tuple[Any, Any] = (
    object(),
    object(),
)  # two, so that nobody's score is not the same as nobody's


@dataclass(slots=True)
class TableItem:
    """An item of one side: its points, and scores by the learner's position."""

    title: str
    points: Decimal | None = None
    scores: dict[int, Decimal] = field(default_factory=dict)
    rounds: bool = False


@dataclass(slots=True)
class Table:
    """One side of a comparison, in the order of its source.

    ``places`` is where in its file each score is, where that was asked for.
    """

    learners: list[Learner] = field(default_factory=list)
    items: list[TableItem] = field(default_factory=list)
    places: dict[tuple[int, int], tuple[int, int]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Cell:
    """A cell that does not agree; ``scaled`` is the publisher's score in the column's points, ``j``
    the gradebook's position of the learner.
    """

    learner: Learner
    item: TableItem
    column: TableItem
    kind: str
    publisher: Decimal | None
    gradebook: Decimal | None
    scaled: Fraction | None
    j: int = 0


@dataclass(frozen=True, slots=True)
class ColumnRow:
    """An item with its column, or one of the two alone, and what is wrong with them."""

    item: TableItem | None
    column: TableItem | None
    findings: tuple[str, ...]


@dataclass(slots=True)
class TableComparison:
    """The whole result: counts by kind, the cells that do not agree, columns, and matching of
    learners.

    ``grid`` has the kind of each cell by the publisher's position of the learner and the item,
    where it was asked for.
    """

    publisher: Table
    counts: Counter[str]
    cells: list[Cell]
    columns: list[ColumnRow]
    matching: Matching
    grid: dict[tuple[int, int], str] | None = None

    def kind_of(self, learner: int, item: TableItem) -> str | None:
        """Return the kind of a cell, None where nobody has a score.

        Raises ValueError where no grid was asked for.
        """
        if self.grid is None:
            raise ValueError("the comparison was made without its grid")
        return self.grid.get((learner, id(item)))


def compare_tables(publisher: Table, gradebook: Table, *, grid: bool = False) -> TableComparison:
    """Compare two tables; the result follows the publisher's order and is the same for the same
    input.
    """
    matching = match(publisher.learners, gradebook.learners)
    pairs = match_titles(
        [item.title for item in publisher.items], [item.title for item in gradebook.items]
    )
    result = TableComparison(publisher, Counter(), [], [], matching, {} if grid else None)
    places = [i for i, _ in matching.pairs], [j for _, j in matching.pairs]
    for pair in pairs:
        item = publisher.items[pair.item] if pair.item is not None else None
        column = gradebook.items[pair.column] if pair.column is not None else None
        codes = findings(pair, item.points if item else None, column.points if column else None)
        result.columns.append(ColumnRow(item, column, tuple(codes)))
        if item is not None and column is not None:
            _compare_column(result, item, column, *places)
    return result


def _compare_column(
    result: TableComparison,
    item: TableItem,
    column: TableItem,
    left: Sequence[int],
    right: Sequence[int],
) -> None:
    """Compare a column; ``left`` and ``right`` are the positions of the matched learners.

    Most cells agree, and are told by being the very same number, without a step of Python for each.
    """
    ours, theirs = (
        list(map(item.scores.get, left, repeat(_ABSENT[0]))),
        list(map(column.scores.get, right, repeat(_ABSENT[1]))),
    )
    unscaled = item.points == column.points or not item.points or not column.points
    same = list(map(is_, ours, theirs)) if unscaled else [False] * len(ours)
    result.counts["agree"] += sum(same)
    if result.grid is not None:
        result.grid.update(dict.fromkeys(((i, id(item)) for i in compress(left, same)), "agree"))
    rule: Column | None = None
    for place in compress(range(len(ours)), map(not_, same)):
        score, written = (
            each if isinstance(each, Decimal) else None for each in (ours[place], theirs[place])
        )
        if score is None and written is None:
            continue
        if unscaled and score == written:
            kind, mark = "agree", None
        else:
            rule = rule or Column(
                column.points, written_decimals(column.scores.values()), column.rounds
            )
            mark = None if score is None else Mark(score, item.points)
            kind = judge(rule, mark, written) or "agree"
        result.counts[kind] += 1
        if result.grid is not None:
            result.grid[left[place], id(item)] = kind
        if kind != "agree":
            value = rule.value(mark) if rule and mark else None
            result.cells.append(
                Cell(
                    result.publisher.learners[left[place]],
                    item,
                    column,
                    kind,
                    score,
                    written,
                    value,
                    right[place],
                )
            )
