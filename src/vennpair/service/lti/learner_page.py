"""The tool itself, opened by a learner: their homework in this shell, with dates and their own
scores.
"""

from __future__ import annotations

import time
from dataclasses import dataclass
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_GET

from vennpair.core.deploy.dates import read_moment, shown
from vennpair.service.content.models import Placement
from vennpair.service.lti.pages import refusal
from vennpair.service.lti.publisher_launch import open_own
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.relay.models import Cell
from vennpair.standards.lti.errors import LtiError

WHOSE, SECONDS = "own_work", 7200  # for which somebody who launched may open their links from here


@dataclass(frozen=True, slots=True)
class Line:
    """One link as its learner sees it; texts are empty where there is nothing to say."""

    placement: Placement
    due: str
    over: bool
    score: str


def show_work(request: HttpRequest, pairing: Pairing, learner: Learner) -> HttpResponse:
    """Show a learner their links, and let this browser open them for a while."""
    request.session[WHOSE] = {"learner": str(learner.pk), "until": time.time() + SECONDS}
    lines = _lines(pairing, learner)
    context = {
        "shell": pairing.shell,
        "units": list(dict.fromkeys(each.placement.item.unit for each in lines)),
        "lines": lines,
        "scored": any(each.score for each in lines),
    }
    return render(request, "lti/work.html", context)


@require_GET
def open_line(request: HttpRequest, placement_id: Any) -> HttpResponse:
    """Lead the learner whose page this browser was shown on to one of their links."""
    try:
        whose = request.session.get(WHOSE) or {}
        if float(whose.get("until", 0)) < time.time():
            raise LtiError("expired", "This page was opened too long ago.")
        learner = Learner.objects.filter(pk=whose["learner"]).first()
        found = (
            _open_to_learners(Placement.objects.filter(pk=placement_id), learner).first()
            if learner is not None
            else None
        )
        if found is None or learner is None:
            raise LtiError("not_placed", "This link is not connected to homework.")
        if found.pairing.state == Pairing.State.PAUSED:
            raise LtiError(
                "paired_paused", "Your instructor has paused the homework of this course."
            )
        return open_own(request, found, learner)
    except LtiError as error:
        return refusal(request, error)


def _open_to_learners(placements: Any, learner: Learner) -> Any:
    """Narrow placements to those of the learner's shell that learners see."""
    return (
        placements.filter(
            pairing__shell=learner.shell_id, state=Placement.State.PLACED, visible=True
        )
        .exclude(pairing__state=Pairing.State.ENDED)
        .select_related(
            "pairing__course__publisher", "pairing__shell__platform__institution", "item"
        )
    )


def _lines(pairing: Pairing, learner: Learner) -> list[Line]:
    now, zone = timezone.now(), pairing.shell.zone
    cells = {
        each.placement_id: each
        for each in Cell.objects.filter(pairing=pairing, learner=learner, state=Cell.State.ACCEPTED)
    }
    rows = _open_to_learners(pairing.placements.all(), learner).order_by("item__position", "pk")
    return [
        Line(
            each,
            shown(each.due_at, zone) if each.due_at else "",
            (due := read_moment(each.due_at)) is not None and due < now,
            _score(cells.get(each.pk)),
        )
        for each in rows
        if (start := read_moment(each.shown_from)) is None or start <= now
    ]


def _score(cell: Cell | None) -> str:
    if cell is None or cell.sent_given is None or cell.sent_maximum is None:
        return ""
    return f"{cell.sent_given.normalize():f} of {cell.sent_maximum.normalize():f}"
