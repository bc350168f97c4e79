"""The comparison of two tables as plain JSON values (CONTRACTS, Output)."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from vennpair.core.reconcile.learners import Learner, Open
from vennpair.core.reconcile.numbers import plain, plain_fraction
from vennpair.core.reconcile.tables import Cell, ColumnRow, TableComparison

Json = dict[str, Any]
CELL_KINDS = ("agree", "differ", "unsent", "gradebook_only")


def table_report(result: TableComparison) -> Json:
    """Return the document that ``vennpair reconcile --publisher A --gradebook B --format json``
    prints.
    """
    kinds = {kind: result.counts[kind] for kind in CELL_KINDS}
    open_kinds = [each.kind for each in result.matching.open]
    summary = {
        "learners": len(result.matching.pairs),
        "columns": sum(row.item is not None and row.column is not None for row in result.columns),
        "cells": sum(kinds.values()),
        **kinds,
        **{kind: open_kinds.count(kind) for kind in ("publisher_only", "shell_only", "ambiguous")},
    }
    return {
        "summary": summary,
        "columns": [_column(row) for row in result.columns],
        "cells": [_cell(cell) for cell in result.cells],
        "learners": [_open(each) for each in result.matching.open],
    }


def _column(row: ColumnRow) -> Json:
    return {
        "item": row.item.title if row.item else None,
        "column": row.column.title if row.column else None,
        "publisher_points": _text(row.item.points if row.item else None),
        "gradebook_points": _text(row.column.points if row.column else None),
        "findings": list(row.findings),
    }


def _cell(cell: Cell) -> Json:
    return {
        "learner": _learner(cell.learner),
        "item": cell.item.title,
        "column": cell.column.title,
        "kind": cell.kind,
        "publisher": {"score": _text(cell.publisher), "points": _text(cell.item.points)},
        "gradebook": {"score": _text(cell.gradebook), "points": _text(cell.column.points)},
        "scaled": None if cell.scaled is None else plain_fraction(cell.scaled),
    }


def _learner(learner: Learner) -> Json:
    return {"id": learner.id or None, "email": learner.email or None, "name": learner.name or None}


def _open(row: Open) -> Json:
    candidates = [
        _learner(each.learner) | {"why": each.why, "likeness": each.likeness}
        for each in row.candidates
    ]
    return {"kind": row.kind, "learner": _learner(row.learner), "candidates": candidates}


def _text(value: Decimal | None) -> str | None:
    return None if value is None else plain(value)
