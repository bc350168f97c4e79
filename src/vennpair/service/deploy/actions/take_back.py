"""Take placements back: links out of the shell.

Their columns kept, exported and removed, or removed.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import Any, Literal

from django.db import transaction

from vennpair.core.counting import many
from vennpair.core.reconcile.report.disarming import disarmed
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.connect.models import User
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.check_as_learner import testers
from vennpair.service.deploy.actions.start_rollout import open_rollout
from vennpair.service.deploy.models import ColumnExport, Rollout, Step
from vennpair.service.deploy.shell_snapshot import require_columns
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.concurrency import IN_FLIGHT
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.standards.lti.grades import Result

Scores = Literal["ask", "keep", "export", "remove"]
HEADER = ("learner_id", "learner_email", "learner_name", "item", "score", "points", "at")


Fate = Literal["none", "kept", "exported", "removed", "asked"]
_FATES: dict[Scores, Fate] = {
    "ask": "asked",
    "keep": "kept",
    "export": "exported",
    "remove": "removed",
}


@dataclass(frozen=True, slots=True)
class Removal:
    """What taking one placement back means: how many scores its column holds, and what becomes of
    the column.
    """

    placement: Placement
    results: tuple[Result, ...]
    column: Fate

    @property
    def by_hand(self) -> bool:
        """Say whether somebody must delete the link in the shell: its platform lets no tool do it,
        or nobody told where it is.
        """
        return not self.placement.entry_id


def plan_taking_back(pairing: Pairing, placements: Sequence[Any], scores: Scores) -> list[Removal]:
    """Plan from what the columns hold now.

    An empty column goes with its link; of one with scores somebody decides. Raises OutsideError,
    Refused.
    """
    require_columns(pairing)
    chosen = list(
        pairing.placements.filter(pk__in=placements)
        .exclude(state=Placement.State.REMOVED)
        .select_related("item")
        .order_by("item__position")
    )
    if len(chosen) != len(set(map(str, placements))):
        raise Refused(
            "unknown_placement",
            "Some of the chosen links are not placed by this pairing.",
            "Read the list again and choose from it.",
            422,
        )
    gateway, testing = shell_gateway(pairing.shell), testers(pairing)
    with ThreadPoolExecutor(IN_FLIGHT) as threads:
        held = list(threads.map(lambda each: _held(gateway, each, testing), chosen))
    return [
        Removal(each, results, _column(each, results, scores))
        for each, results in zip(chosen, held, strict=True)
    ]


def start_taking_back(
    pairing: Pairing, placements: Sequence[Any], scores: Scores, actor: User
) -> Rollout:
    """Export what is to be kept as a file, then enqueue.

    Raises Refused ``scores_present`` where nobody has said what becomes of scores.
    """
    require_instructor(actor, pairing.shell)
    removals = plan_taking_back(pairing, placements, scores)
    if open_ones := [each.placement.title for each in removals if each.column == "asked"]:
        words = f"{len(open_ones)} of the columns hold scores: {', '.join(open_ones[:5])}."
        raise Refused(
            "scores_present",
            words,
            "Say what becomes of them: keep the columns, export their scores and remove them, or"
            " remove them (--scores keep|export|remove).",
            409,
        )
    steps: list[Step] = []
    for each in removals:
        steps.append(Step(kind="remove_link", placement=each.placement))
        if each.column in {"exported", "removed"}:
            steps.append(Step(kind="remove_column", placement=each.placement))
    with transaction.atomic():
        names = {
            learner.subject: learner for learner in Learner.objects.filter(shell=pairing.shell)
        }
        exports = [
            ColumnExport(
                pairing=pairing,
                placement=each.placement,
                title=each.placement.title,
                text=_csv(each, names),
            )
            for each in removals
            if each.column == "exported"
        ]
        ColumnExport.objects.bulk_create(exports)
        return open_rollout(
            pairing,
            Rollout.Purpose.TAKE_BACK,
            steps,
            actor,
            f"{many(len(removals), 'link is', 'links are')} being removed (scores: {scores})."
            + _left(removals),
        )


def _left(removals: Sequence[Removal]) -> str:
    """Return what stays to be done by hand, in words."""
    by_hand = [each.placement.title for each in removals if each.by_hand]
    if not by_hand:
        return ""
    named = ", ".join(by_hand[:5]) + (", …" if len(by_hand) > 5 else "")
    return f" The platform lets no tool delete links: delete these in the shell: {named}."


def _held(gateway: PlatformGateway, placement: Placement, testing: set[str]) -> tuple[Result, ...]:
    if not placement.column_url:
        return ()
    try:
        return tuple(
            each
            for each in gateway.results(placement.column_url)
            if each.score is not None and each.user_id not in testing
        )
    except OutsideError as error:
        if error.failure.code == "gone":
            return ()
        raise


def _column(placement: Placement, results: Sequence[Result], scores: Scores) -> Fate:
    if not placement.column_url:
        return "none"
    if not results:
        return "removed"
    return _FATES[scores]


def _csv(removal: Removal, names: dict[str, Learner]) -> str:
    """Return a column's scores as a tidy table, as ``vennpair reconcile`` reads it."""
    target = io.StringIO()
    writer = csv.writer(target)
    writer.writerow(HEADER)
    for each in removal.results:
        learner = names.get(each.user_id)
        about = (
            (learner.number or learner.subject, learner.email, learner.name)
            if learner
            else (each.user_id, "", "")
        )
        writer.writerow(
            [
                *map(disarmed, about),
                disarmed(removal.placement.title),
                f"{each.score:f}",
                f"{each.maximum:f}",
                "",
            ]
        )
    return target.getvalue()
