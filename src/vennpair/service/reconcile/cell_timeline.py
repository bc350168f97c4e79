"""The story of one cell on one time line: attempts, what was sent, what came of it, what was
decided.
"""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal
from typing import Any

from django.conf import settings

from vennpair.core.deploy.dates import read_moment, shown
from vennpair.core.reconcile.numbers import shortest
from vennpair.service.content.models import Placement
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.reconcile.models import Comparison, Finding, Note, SettleStep
from vennpair.service.relay.models import LedgerEntry, Passage

_PASSED = {
    "accepted": "the gradebook took it",
    "refused": "the platform refused it",
    "failed": "it did not go through",
    "clash": "somebody had typed there",
    "checked": "read back",
    "told": "progress was told",
    "again": "queued again",
    "released": "let go",
    "settled": "settled",
}
_VIA = {
    "push": "the publisher reported it",
    "outcomes": "the publisher reported it",
    "pull": "read from the publisher",
    "file": "taken from a file",
}


def story_of(pairing: Pairing, placement: Placement, learner: Learner) -> dict[str, Any]:
    """Return everything known of a cell, the oldest first."""
    newest = Comparison.objects.done().filter(pairing=pairing).first()
    finding = (
        Finding.objects.filter(
            comparison=newest, scope="cell", placement=placement, person=learner
        ).first()
        if newest
        else None
    )
    events = [
        *_reports(placement, learner, pairing.shell.zone),
        *_passages(placement, learner),
        *_decisions(placement, learner),
    ]
    if newest is not None and finding is not None:
        events += _unreported(finding, events, newest.at)
        events.append(
            _event(
                newest.at,
                "gradebook",
                "compared",
                _number(finding.gradebook),
                _number(finding.gradebook_points),
                "the gradebook holds this now"
                if finding.gradebook is not None
                else "the gradebook is empty now",
            )
        )
    return {
        "item": placement.title,
        "learner": learner.name,
        "points": None if placement.points is None else shortest(placement.points),
        "kind": finding.kind if finding else "",
        "review": f"{settings.BASE_URL}/lti/platform/review/{placement.pk}/{learner.pk}"
        if pairing.course.publisher.review_url
        else "",
        "events": sorted(events, key=lambda each: each["at"]),
        "notes": Note.objects.filter(placement=placement, learner=learner).select_related(
            "author", "placement", "learner"
        ),
    }


def _unreported(
    finding: Finding, events: list[dict[str, Any]], at: datetime | None
) -> list[dict[str, Any]]:
    """Return what the publisher has by the comparison, where it never reported that."""
    now = _number(finding.publisher)
    reported = [each["score"] for each in events if each["side"] == "publisher"]
    if now is None or (reported and reported[-1] == shortest(now)):
        return []
    moment = read_moment(finding.publisher_at) or at
    return [
        _event(
            min(moment, at) if moment and at else at,
            "publisher",
            "compared",
            now,
            _number(finding.publisher_points),
            "the publisher has this now, and never reported it",
        )
    ]


def _reports(placement: Placement, learner: Learner, zone: str) -> list[dict[str, Any]]:
    """Return each report at the publisher's own time, with when it came where that is later."""
    found = []
    for each in LedgerEntry.objects.filter(placement=placement, learner=learner).order_by("pk"):
        words = _VIA[each.via] + (
            f", handed in {shown(each.submitted_at.isoformat(), zone)}" if each.submitted_at else ""
        )
        found.append(
            _event(
                min(each.timestamp, each.received_at),
                "publisher",
                "withdrawn" if each.given is None else "reported",
                each.given,
                each.maximum,
                words,
            )
        )
    return found


def _passages(placement: Placement, learner: Learner) -> list[dict[str, Any]]:
    rows = Passage.objects.filter(cell__placement=placement, cell__learner=learner).order_by("pk")
    sides = {"accepted": "gradebook", "settled": "gradebook", "checked": "gradebook"}
    return [
        _event(
            each.at,
            sides.get(each.what, "venn"),
            each.what,
            each.given,
            each.maximum,
            each.words or _PASSED[each.what],
        )
        for each in rows
    ]


def _decisions(placement: Placement, learner: Learner) -> list[dict[str, Any]]:
    rows = SettleStep.objects.filter(
        placement=placement, person=learner, scope="cell", remedy__in=["keep", "leave"]
    ).exclude(done_at=None)
    return [
        _event(
            each.done_at,
            "venn",
            each.remedy,
            _number(each.before),
            None,
            "it was decided to leave the gradebook as it is",
        )
        for each in rows
    ]


def _event(
    at: datetime | None,
    side: str,
    what: str,
    score: Decimal | None,
    points: Decimal | None,
    words: str,
) -> dict[str, Any]:
    share = float(score / points) if score is not None and points else None
    return {
        "at": at,
        "side": side,
        "what": what,
        "score": None if score is None else shortest(score),
        "points": None if points is None else shortest(points),
        "share": share,
        "words": words,
    }


def _number(text: str | None) -> Decimal | None:
    return None if text is None else Decimal(text)
