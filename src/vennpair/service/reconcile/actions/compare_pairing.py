"""Compare a pairing and keep the result: counts, matrix, and every finding with its cause."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.reconcile.levels import level_of
from vennpair.core.reconcile.live import LiveCell, LiveComparison, SideFinding, compare_live
from vennpair.core.reconcile.numbers import plain, plain_fraction
from vennpair.service.activity.audit import record
from vennpair.service.ops.models import Job
from vennpair.service.ops.running import step_done
from vennpair.service.reconcile.actions.read_sides import Sides, read_sides
from vennpair.service.reconcile.models import Comparison, Finding

STEPS = 5
_LEFT, _RIGHT = {"publisher_only", "column_missing"}, {"shell_only", "column_extra", "item_gone"}


def compare_pairing(job: Job) -> str:
    """Read, compare, store; doing it again replaces the result. Raises OutsideError."""
    comparison = Comparison.objects.get(job=job)
    job.done, job.total = 0, STEPS
    pairing = job.pairing
    sides = read_sides(pairing, lambda words: step_done(job, words))
    result = compare_live(sides.items, sides.publisher, sides.shell, sides.extra_columns, pairing.shell.zone)
    with transaction.atomic():
        comparison.findings.all().delete()
        Finding.objects.bulk_create([Finding(comparison=comparison, position=position, **fields) for position, fields in enumerate(_findings(result))])
        comparison.at, comparison.summary = timezone.now(), _summary(sides, result)
        comparison.venn, comparison.matrix = _venn(pairing, sides, result), _matrix(sides, result)
        comparison.save()
        step_done(job)
        differing = sum(result.counts.values()) - result.counts["agree"]
        words = f"{result.counts['agree']} scores agree, {differing} do not"
        record("comparison.done", f"Compared: {words}.", pairing=pairing, actor=job.made_by)
    return words


def _findings(result: LiveComparison) -> Iterator[dict[str, Any]]:
    order = {"error": 0, "warning": 1, "note": 2}
    rows = [*map(_cell, result.cells), *(_side("column", each) for each in result.columns), *(_side("learner", each) for each in result.learners)]
    return iter(sorted(rows, key=lambda row: order[row["level"]]))


def _cell(cell: LiveCell) -> dict[str, Any]:
    return {
        "scope": "cell",
        "kind": cell.kind,
        "level": level_of(cell.kind),
        "side": "left" if cell.gradebook is None else ("right" if cell.publisher is None else "both"),
        "item": cell.item.title,
        "learner": cell.learner.name,
        "email": cell.learner.email,
        "publisher": _text(cell.publisher),
        "gradebook": _text(cell.gradebook),
        "sent": _text(cell.sent),
        "scaled": None if cell.scaled is None else plain_fraction(cell.scaled),
        "cause": cell.cause,
        "remedies": list(cell.remedies),
    }


def _side(scope: str, each: SideFinding) -> dict[str, Any]:
    points = (each.item.points, each.item.column_points) if each.item and each.kind.startswith("points") else (None, None)
    return {
        "scope": scope,
        "kind": each.kind,
        "level": level_of(each.kind),
        "side": "left" if each.kind in _LEFT else ("right" if each.kind in _RIGHT else "both"),
        "item": each.subject if scope == "column" else "",
        "learner": each.subject if scope == "learner" else "",
        "email": each.learner.email if each.learner else "",
        "publisher": _text(points[0]),
        "gradebook": _text(points[1]),
        "cause": each.cause,
        "candidates": [{"name": like.learner.name, "email": like.learner.email, "why": like.why, "likeness": like.likeness} for like in each.candidates],
    }


def _summary(sides: Sides, result: LiveComparison) -> dict[str, Any]:
    kinds = [each.kind for each in (*result.columns, *result.learners)]
    return {
        "learners": result.matched_learners,
        "columns": sum(item.column_title is not None for item in sides.items),
        "cells": sum(result.counts.values()),
        "kinds": dict(sorted(result.counts.items())),
        "others": {kind: kinds.count(kind) for kind in sorted(set(kinds))},
    }


def _venn(pairing: Any, sides: Sides, result: LiveComparison) -> dict[str, list[int]]:
    """Return left, both and right for items, columns and scores."""
    live = pairing.items.filter(gone=False, kind__in=["graded", "practice"])
    placed = live.filter(placement__state="placed").count()
    columns = sum(item.column_title is not None for item in sides.items)
    sided = [("left" if cell.gradebook is None else ("right" if cell.publisher is None else "both")) for cell in result.cells]
    return {
        "items": [live.count() - placed, placed, sides.other_links],
        "columns": [live.filter(kind="graded").count() - columns, columns, len(sides.extra_columns)],
        "scores": [sided.count("left"), result.counts["agree"] + sided.count("both"), sided.count("right")],
        "scores_differ": [sided.count("both")],
    }


def _matrix(sides: Sides, result: LiveComparison) -> dict[str, Any]:
    return {
        "items": [item.title for item in sides.items if item.column_title is not None],
        "learners": [person.name for person, _ in result.grid],
        "rows": [kinds for _, kinds in result.grid],
    }


def _text(value: Decimal | None) -> str | None:
    return None if value is None else plain(value.normalize() if value % 1 else value.quantize(Decimal(1)))
