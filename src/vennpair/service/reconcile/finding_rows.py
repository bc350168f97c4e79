"""The findings of a comparison as rows: each with a key that stays the same from one comparison to
the next.
"""

from __future__ import annotations

from typing import Any

from vennpair.core.reconcile.levels import level_of
from vennpair.core.reconcile.live import LearnerFinding, LiveCell, LiveComparison
from vennpair.core.reconcile.live_columns import ColumnFinding
from vennpair.core.reconcile.numbers import plain_fraction, shortest
from vennpair.core.reconcile.remedies import default_of
from vennpair.service.reconcile.models import Finding
from vennpair.service.stored import FoundCandidate

_LEFT, _RIGHT = (
    {"publisher_only", "column_missing", "never_opened"},
    {"shell_only", "column_extra", "item_gone"},
)
_LOUDEST = {"error": 0, "warning": 1, "note": 2}
_LENGTHS = {each.name: each.max_length for each in Finding._meta.fields if each.max_length}


def findings_of(result: LiveComparison) -> list[dict[str, Any]]:
    """Return the fields of every finding, errors first.

    Within a level cells, columns, learners, each in its own order.
    """
    rows = [
        *map(_cell, result.cells),
        *map(_column, result.columns),
        *map(_learner, result.learners),
    ]
    return sorted(map(_fitting, rows), key=lambda row: _LOUDEST[row["level"]])


def _fitting(row: dict[str, Any]) -> dict[str, Any]:
    """Return the fields with texts no longer than a finding keeps: other systems set no limits."""
    return {
        name: value[: _LENGTHS[name]] if isinstance(value, str) and name in _LENGTHS else value
        for name, value in row.items()
    }


def _cell(cell: LiveCell) -> dict[str, Any]:
    side = "left" if cell.gradebook is None else ("right" if cell.publisher is None else "both")
    return _common("cell", cell.kind, side, cell.cause, cell.remedies) | {
        "key": f"cell:{cell.item.placement}:{cell.learner.subject}",
        "placement_id": cell.item.placement,
        "person_id": cell.learner.subject,
        "item": cell.item.title,
        "learner": cell.learner.name,
        "email": cell.learner.email,
        "publisher": _text(cell.publisher.score if cell.publisher else None),
        "publisher_points": _text(cell.publisher.points if cell.publisher else None),
        "publisher_at": cell.at,
        "source": cell.source,
        "because": cell.because,
        "read": cell.read,
        "gradebook": _text(cell.gradebook),
        "gradebook_points": _text(cell.item.column_points),
        "sent": _text(cell.sent),
        "scaled": None if cell.scaled is None else plain_fraction(cell.scaled),
    }


def _column(each: ColumnFinding) -> dict[str, Any]:
    which = each.url or (each.item.placement if each.item else each.subject)
    return _common("column", each.kind, _side(each.kind), each.cause, each.remedies) | {
        "key": f"column:{each.kind}:{which}",
        "placement_id": each.item.placement if each.item and not each.url else None,
        "item": each.subject,
        "candidates": _column_candidates(each),
        "publisher": each.publisher or None,
        "gradebook": each.gradebook or None,
    }


def _column_candidates(each: ColumnFinding) -> list[FoundCandidate]:
    """Return the column that may be the missing one, or the graded items that a link may open."""
    if each.heir:
        found = [(each.heir.url, each.heir.title, each.why, 1.0)]
    elif each.kind == "unread" and each.item:
        found = [(like.key, like.title, like.points, like.likeness) for like in each.item.likely]
    else:
        found = []
    return [
        FoundCandidate(key=key, name=name, email="", why=why, likeness=likeness)
        for key, name, why, likeness in found
    ]


def _learner(each: LearnerFinding) -> dict[str, Any]:
    at_publisher = each.side == "publisher"
    return _common("learner", each.kind, _side(each.kind), each.cause, each.remedies) | {
        "key": f"learner:{each.side}:{each.learner.key}",
        "person_id": None if at_publisher else each.learner.subject,
        "account": each.learner.key if at_publisher else "",
        "learner": each.learner.name or each.learner.email,
        "email": each.learner.email,
        "candidates": [
            FoundCandidate(
                key=who.key if not at_publisher else who.subject,
                name=who.name,
                email=who.email,
                why=like.why,
                likeness=like.likeness,
            )
            for who, like in each.candidates
        ],
    }


def _common(
    scope: str, kind: str, side: str, cause: str, remedies: tuple[str, ...]
) -> dict[str, Any]:
    return {
        "scope": scope,
        "kind": kind,
        "level": level_of(kind),
        "side": side,
        "cause": cause,
        "remedies": list(remedies),
        "default": default_of(kind, remedies),
    }


def _side(kind: str) -> str:
    return "left" if kind in _LEFT else ("right" if kind in _RIGHT else "both")


def _text(value: Any) -> str | None:
    return None if value is None else shortest(value)
