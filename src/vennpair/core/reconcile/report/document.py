"""What a report holds, the same for a pairing and for two files."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field, fields
from datetime import datetime
from decimal import Decimal
from typing import Any

from vennpair.core.moments import moment_words
from vennpair.core.reconcile.levels import level_of
from vennpair.core.reconcile.tables import TableComparison

Json = Mapping[str, Any]


@dataclass(frozen=True, slots=True)
class Row:
    """One finding; numbers are exact decimals as text, absent ones empty."""

    scope: str
    finding: str
    level: str
    learner: str = ""
    email: str = ""
    item: str = ""
    publisher: str = ""
    publisher_points: str = ""
    gradebook: str = ""
    gradebook_points: str = ""
    sent: str = ""
    cause: str = ""
    since: str = ""
    kept: str = ""


COLUMNS = tuple(each.name for each in fields(Row))


@dataclass(slots=True)
class Report:
    """A comparison with its findings; ``kinds`` has a row for each learner and a column for each
    item, None where nobody has a score.

    ``at`` is when both sides were compared, ISO 8601, ``compared`` the same in words; both are
    empty for two files. ``shares`` has two shares of the points for each of them, the publisher's
    first, None where a side has no score.
    """

    title: str
    left: str
    right: str
    at: str
    counts: dict[str, int]
    sources: list[str] = field(default_factory=list)
    rows: list[Row] = field(default_factory=list)
    items: list[str] = field(default_factory=list)
    learners: list[str] = field(default_factory=list)
    kinds: list[list[str | None]] = field(default_factory=list)
    venn: dict[str, list[int]] = field(default_factory=dict)
    shares: Sequence[Sequence[Sequence[float | None]]] = ()
    compared: str = ""

    def as_json(self) -> dict[str, Any]:
        """Return it as plain JSON values."""
        return {
            "title": self.title,
            "publisher": self.left,
            "gradebook": self.right,
            "at": self.at,
            "counts": self.counts,
            "sources": self.sources,
            "findings": [asdict(row) for row in self.rows],
        }


def report_of_live(
    comparison: Json, findings: Sequence[Json], title: str, left: str, right: str, zone: str
) -> Report:
    """Return the report of a pairing's comparison, from what the API says of it; moments are in the
    course's ``zone``.
    """
    summary, matrix = comparison["summary"] or {}, comparison.get("matrix") or {}
    counts = {
        "learners": summary.get("learners", 0),
        "columns": summary.get("columns", 0),
        "cells": summary.get("cells", 0),
        "agree": summary.get("kinds", {}).get("agree", 0),
        "kept": summary.get("kept", 0),
    }
    return Report(
        title,
        left,
        right,
        str(comparison["at"] or ""),
        counts,
        [
            f"{each['name']}: {each['how']}, {_in_words(each['at'], zone)}"
            for each in comparison.get("sources") or []
        ],
        [_live_row(each) for each in findings],
        list(matrix.get("items", [])),
        list(matrix.get("learners", [])),
        [list(row) for row in matrix.get("rows", [])],
        dict(comparison["venn"] or {}),
        comparison.get("shares") or (),
        _in_words(comparison["at"], zone),
    )


def _in_words(at: str | None, zone: str) -> str:
    return f"{moment_words(datetime.fromisoformat(at), zone)} ({zone})" if at else ""


def _live_row(each: Json) -> Row:
    named = {
        name: _text(each.get(name)) for name in COLUMNS if name not in {"finding", "scope", "level"}
    }
    return Row(each["scope"], each["kind"], each["level"], **named)


def report_of_tables(result: TableComparison, document: Json, left: str, right: str) -> Report:
    """Return the report of two files; ``document`` is what ``table_report`` made of the
    comparison.
    """
    summary = document["summary"]
    matched = [row for row in result.columns if row.item is not None and row.column is not None]
    grid = [
        [result.kind_of(i, row.item) for row in matched if row.item]
        for i, _ in result.matching.pairs
    ]
    only = [sum(each[side] is None for each in document["columns"]) for side in ("column", "item")]
    venn = {
        "learners": [summary["publisher_only"], summary["learners"], summary["shell_only"]],
        "columns": [only[0], summary["columns"], only[1]],
        "scores": [
            summary["unsent"],
            summary["agree"] + summary["differ"],
            summary["gradebook_only"],
        ],
        "scores_differ": [summary["differ"]],
    }
    counts = {name: summary[name] for name in ("learners", "columns", "cells", "agree")}
    names = [result.publisher.learners[i] for i, _ in result.matching.pairs]
    return Report(
        f"{left} – {right}",
        left,
        right,
        "",
        counts,
        [],
        _rows_of(document),
        [row.item.title for row in matched if row.item],
        [each.name or each.email or each.id for each in names],
        grid,
        venn,
        _shares(result),
    )


def _rows_of(document: Json) -> list[Row]:
    """Return what was found in two files: of cells, then of columns, then of learners."""
    columns = [
        Row(
            "column",
            code,
            level_of(code),
            item=each["item"] or each["column"],
            publisher_points=_text(each["publisher_points"]),
            gradebook_points=_text(each["gradebook_points"]),
        )
        for each in document["columns"]
        for code in each["findings"]
    ]
    learners = [
        Row(
            "learner",
            each["kind"],
            level_of(each["kind"]),
            _who(each["learner"]),
            _text(each["learner"]["email"]),
            cause=_perhaps(each),
        )
        for each in document["learners"]
    ]
    return [*map(_cell_row, document["cells"]), *columns, *learners]


def _shares(result: TableComparison) -> list[list[tuple[float | None, float | None]]]:
    pairs = [
        (row.item, row.column)
        for row in result.columns
        if row.item is not None and row.column is not None
    ]
    return [
        [
            (
                _share(item.scores.get(i), item.points or column.points),
                _share(column.scores.get(j), column.points or item.points),
            )
            for item, column in pairs
        ]
        for i, j in result.matching.pairs
    ]


def _share(score: Decimal | None, points: Decimal | None) -> float | None:
    return float(score) / float(points) if score is not None and points else None


def _cell_row(each: Json) -> Row:
    cause = "" if each["scaled"] is None else f"The column would show {each['scaled']}."
    left, right = each["publisher"], each["gradebook"]
    return Row(
        "cell",
        each["kind"],
        level_of(each["kind"]),
        _who(each["learner"]),
        _text(each["learner"]["email"]),
        each["item"],
        _text(left["score"]),
        _text(left["points"]),
        _text(right["score"]),
        _text(right["points"]),
        cause=cause,
    )


def _perhaps(each: Json) -> str:
    return "; ".join(f"Perhaps {_who(like)}: {like['why']}." for like in each["candidates"])


def _who(learner: Json) -> str:
    return str(learner["name"] or learner["email"] or learner["id"] or "")


def _text(value: Any) -> str:
    return "" if value is None else str(value)
