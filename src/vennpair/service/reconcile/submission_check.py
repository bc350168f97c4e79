"""What a statement and a digest need to know of a pairing, gathered."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime, timedelta

from vennpair.core.deploy.dates import read_moment
from vennpair.core.reconcile.digest import ShellNews
from vennpair.core.reconcile.levels import URGENT
from vennpair.core.reconcile.ready import Facts, Statement, statement
from vennpair.service.content.models import Placement
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.pair.models import Pairing
from vennpair.service.reconcile.models import Comparison, Schedule, Settlement
from vennpair.service.relay.queries import counts_of
from vennpair.service.stored import Matrix

NIGHT = timedelta(hours=26)  # what is older is no news


def statement_of(pairing: Pairing, now: datetime) -> Statement:
    """Return whether a pairing's grades may be submitted, and why."""
    newest = Comparison.objects.done().filter(pairing=pairing).first()
    summary = newest.summary if newest else {}
    placed = list(
        Placement.objects.filter(pairing=pairing, state=Placement.State.PLACED)
        .exclude(column_url="")
        .values_list("pk", "due_at")
    )
    over = {str(pk) for pk, due in placed if _is_over(due, now)}
    later = sum(bool(due) and str(pk) not in over for pk, due in placed)
    facts = Facts(
        compared_at=newest.at if newest else None,
        cells=summary.get("cells", 0),
        agree=summary.get("kinds", {}).get("agree", 0),
        open=summary.get("open", {}),
        scaled=newest.findings.filter(kind="edited", kept=None).exclude(because="").count()
        if newest
        else 0,
        kept=summary.get("kept", 0),
        scores=counts_of(pairing)[0],
        relay_on=pairing.relay_on,
        live=pairing.state == Pairing.State.LIVE,
        proposals=Settlement.objects.filter(pairing=pairing, job__state=Job.State.PROPOSED).count(),
        blank=_blank(newest.matrix, over) if newest else 0,
        due_later=later,
        unplaced=pairing.items.filter(gone=False, kind="graded")
        .exclude(placement__state=Placement.State.PLACED)
        .count(),
    )
    return statement(facts, now)


def news_of(pairings: Iterable[Pairing], now: datetime, link: str) -> list[ShellNews]:
    """Return what is new in these pairings since the night.

    One that was not compared at all lately is left out.
    """
    news = []
    for pairing in pairings:
        last = (
            Comparison.objects.live()
            .filter(pairing=pairing, job__made_at__gt=now - NIGHT)
            .select_related("job")
            .order_by("-job__made_at")
            .first()
        )
        if last is not None:
            news.append(_news(pairing, last, now, link))
    return news


def _news(pairing: Pairing, last: Comparison, now: datetime, link: str) -> ShellNews:
    name, where = (
        pairing.shell.label or pairing.shell.title,
        f"{link}/pairings/{pairing.pk}/reconcile",
    )
    due = Schedule.objects.filter(pairing=pairing).values_list("grades_due", flat=True).first()
    not_ready = (
        [line.sentence for line in statement_of(pairing, now).lines if line.level == "open"]
        if due
        else []
    )
    if last.at is None:
        trouble = (
            f"{last.job.message} {last.job.remedy}".strip()
            if last.job.state in {Job.State.FAILED, Job.State.WAITING}
            else "It is not finished yet."
        )
        return ShellNews(name, where, trouble=trouble, grades_due=due, not_ready=not_ready)
    summary = last.summary
    urgent = dict(
        last.findings.filter(level__in=URGENT, kept=None)
        .order_by("position")
        .values_list("kind", "level")
    )
    causes = {kind: count for kind, count in summary["open"].items() if kind in urgent}
    return ShellNews(
        name,
        where,
        summary["cells"],
        summary["kinds"].get("agree", 0),
        summary["urgent"],
        _new(last),
        causes,
        grades_due=due,
        not_ready=not_ready,
    )


def _new(comparison: Comparison) -> int:
    """Count what is open and was not there a night ago, whatever was compared in between."""
    return (
        comparison.findings.filter(
            level__in=URGENT, kept=None, since__gt=comparison.at - NIGHT
        ).count()
        if comparison.at
        else 0
    )


def _is_over(due: str, now: datetime) -> bool:
    moment = read_moment(due)
    return moment is not None and moment < now


def _blank(matrix: Matrix, over: set[str]) -> int:
    places = [
        place for place, placement in enumerate(matrix.get("placements", [])) if placement in over
    ]
    return sum(row[place] is None for row in matrix.get("rows", []) for place in places)
