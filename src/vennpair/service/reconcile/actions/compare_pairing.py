"""Compare a pairing and keep the result: counts, matrix, and every finding with its cause."""

from __future__ import annotations

from collections import Counter

from django.db import transaction
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.reconcile.levels import URGENT
from vennpair.core.reconcile.live import LiveComparison, compare_live
from vennpair.core.reconcile.remedies import is_for_many, is_safe
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import step_done
from vennpair.service.kernel.metrics import FINDINGS
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.trail import record
from vennpair.service.reconcile.actions.read_sides import Sides, read_sides
from vennpair.service.reconcile.finding_rows import findings_of
from vennpair.service.reconcile.models import Comparison, Finding, Keep
from vennpair.service.stored import Circles, Matrix, Root, Summary

STEPS = 5


def compare_pairing(job: Job) -> str:
    """Read, compare, store; doing it again replaces the result. Raises OutsideError."""
    comparison = Comparison.objects.get(job=job)
    job.done, job.total = 0, STEPS
    pairing, began = job.pairing, timezone.now()
    sides = read_sides(pairing, comparison.given or None, lambda words: step_done(job, words))
    result = compare_live(
        sides.items, sides.publisher, sides.shell, sides.loose, pairing.shell.zone
    )
    with transaction.atomic():
        comparison.findings.all().delete()
        comparison.at = began  # the newest is the one that began to read last, whichever ends first
        found = [
            Finding(comparison=comparison, position=position, **fields)
            for position, fields in enumerate(findings_of(result))
        ]
        _remember(comparison, found)
        comparison.summary, comparison.sources = _summary(sides, result, found), sides.sources
        comparison.venn, comparison.matrix = _venn(pairing, sides, result), _matrix(sides, result)
        comparison.shares = [row.shares for row in result.grid]
        Finding.objects.bulk_create(found, batch_size=2_000)
        comparison.save()
        step_done(job)
        for kind, count in Counter(each.kind for each in found).items():
            FINDINGS.labels(kind).inc(count)
        words = _words(comparison.summary)
        record("comparison.done", f"Compared: {words}.", pairing=pairing, actor=job.made_by)
    return words


def _remember(comparison: Comparison, found: list[Finding]) -> None:
    """Note which findings somebody keeps as they are, and since when each has been as it is."""
    keeps = {each.key: each for each in Keep.objects.filter(pairing=comparison.pairing_id)}
    last = (
        Comparison.objects.done()
        .filter(pairing=comparison.pairing_id, at__lt=comparison.at)
        .first()
    )
    known = (
        {
            (each.key, each.kind, each.publisher, each.gradebook): each.since
            for each in last.findings.all()
        }
        if last
        else {}
    )
    for each in found:
        keep = keeps.get(each.key)
        each.kept = (
            keep.made_at
            if keep and (keep.publisher, keep.gradebook) == (each.publisher, each.gradebook)
            else None
        )
        each.since = (
            known.get((each.key, each.kind, each.publisher, each.gradebook)) or comparison.at
        )


def _summary(sides: Sides, result: LiveComparison, found: list[Finding]) -> Summary:
    open_ = [each for each in found if each.kept is None]
    urgent = [each for each in open_ if each.level in URGENT]
    return Summary(
        learners=len(result.grid),
        columns=sum(item.column_title is not None for item in sides.items),
        cells=sum(result.counts.values()),
        kinds=dict(sorted(result.counts.items())),
        others=_counted([each.kind for each in found if each.scope != "cell"]),
        open=_counted([each.kind for each in open_]),
        kept=len(found) - len(open_),
        urgent=len(urgent),
        safe=sum(_is_safe(each) for each in open_),
        new=sum(each.new for each in open_),
        roots=_roots(open_),
        oldest=min((each.since.isoformat() for each in urgent if each.since), default=None),
    )


def _is_safe(each: Finding) -> bool:
    """Say whether a finding is settled with all that are safe."""
    empty = each.gradebook is None
    return (
        each.scope == "cell"
        and is_safe(each.kind)
        and is_for_many(each.default, read=each.read, empty=empty)
    )


def _roots(found: list[Finding]) -> list[Root]:
    """Return the changes of a column that each explain many cells, those that explain most
    first.
    """
    counted = Counter((each.because, each.item) for each in found if each.because)
    columns = {(each.kind, each.item): each for each in found if each.scope == "column"}
    rows = [
        Root(
            kind=kind,
            item=item,
            cells=count,
            publisher=columns[kind, item].publisher,
            gradebook=columns[kind, item].gradebook,
        )
        for (kind, item), count in counted.items()
        if (kind, item) in columns
    ]
    return sorted(rows, key=lambda row: (-row["cells"], row["item"]))


def _counted(kinds: list[str]) -> dict[str, int]:
    return dict(sorted(Counter(kinds).items()))


def _words(summary: Summary) -> str:
    agree = summary["kinds"].get("agree", 0)
    kept = f", {many(summary['kept'], 'finding')} kept" if summary["kept"] else ""
    return f"{many(agree, 'score agrees', 'scores agree')}, {summary['cells'] - agree} do not{kept}"


def _venn(pairing: Pairing, sides: Sides, result: LiveComparison) -> Circles:
    """Return left, both and right for items, columns and scores."""
    live = pairing.items.filter(gone=False, kind__in=["graded", "practice"])
    placed = live.filter(placement__state="placed").count()
    columns = sum(item.column_title is not None for item in sides.items)
    sided = [
        ("left" if cell.gradebook is None else ("right" if cell.publisher is None else "both"))
        for cell in result.cells
    ]
    differ = sided.count("both")
    return Circles(
        items=[live.count() - placed, placed, sides.other_links],
        columns=[live.filter(kind="graded").count() - columns, columns, len(sides.loose)],
        scores=[sided.count("left"), result.counts["agree"] + differ, sided.count("right")],
        scores_differ=[differ],
    )


def _matrix(sides: Sides, result: LiveComparison) -> Matrix:
    shown = [item for item in sides.items if item.column_title is not None]
    return Matrix(
        items=[item.title for item in shown],
        placements=[item.placement for item in shown],
        learners=[row.ours.name for row in result.grid],
        people=[row.ours.subject for row in result.grid],
        matched_by=[row.by for row in result.grid],
        rows=[row.kinds for row in result.grid],
    )
