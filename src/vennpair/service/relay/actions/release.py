"""Let go what is held, and show learners a column that the instructor wanted to look at first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.models import User
from vennpair.service.content.models import Placement
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.concurrency import Outcome, run_concurrently
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.relay.models import Cell, Passage, Release
from vennpair.service.relay.scheduling import wake

BY_HAND, BY_TIME = ("hand", "late", "no_due"), ("due", "daily")


def held_of(pairing: Pairing, placements: Sequence[Any], *, early: bool = False) -> Any:
    """Return the cells that a release would let go, of all placements where none is named.

    With ``early`` also those held for a time.
    """
    held = Cell.objects.filter(
        pairing=pairing, state=Cell.State.HELD, why__in=[*BY_HAND, *(BY_TIME if early else ())]
    )
    return held.filter(placement__in=placements) if placements else held


def release(
    pairing: Pairing, placements: Sequence[Any], actor: User, *, early: bool = False
) -> int:
    """Let go what has come by now, of all placements where none is named; return how many scores.
    Raises Refused.

    What is held for a due date or a time of day stays, unless ``early``.
    """
    require_instructor(actor, pairing.shell)
    now = timezone.now()
    with transaction.atomic():
        held = held_of(pairing, placements, early=early)
        chosen = placements or list(held.order_by().values_list("placement", flat=True).distinct())
        known = Placement.objects.filter(pairing=pairing, pk__in=chosen).exclude(column_url="")
        Release.objects.bulk_create(
            [Release(placement=each, at=now, made_by=actor) for each in known]
        )
        ids = list(held.values_list("pk", flat=True))
        Passage.objects.bulk_create(
            [Passage(pairing=pairing, cell_id=pk, what=Passage.What.RELEASED, at=now) for pk in ids]
        )
        wake(Cell.objects.filter(pk__in=ids))
        record(
            "relay.released",
            f"{many(len(ids), 'held score', 'held scores')} of {many(len(known), 'item')}"
            " released.",
            pairing=pairing,
            actor=actor,
            after={"cells": len(ids), "items": [each.title for each in known][:50]},
        )
    return len(ids)


def show_columns(
    pairing: Pairing, placements: Sequence[Any], shown: bool, actor: User
) -> list[dict[str, Any]]:
    """Show learners the scores of columns, or keep them from view (AGS 2.0, gradesReleased); return
    each with what came of it.

    ``done``, or ``unknown`` where the platform has no such thing, or ``failed``. Raises Refused.
    """
    require_instructor(actor, pairing.shell)
    found = Placement.objects.filter(pairing=pairing).exclude(column_url="")
    chosen = list(
        (found.filter(pk__in=placements) if placements else found).order_by("item__position", "pk")
    )
    gateway, rows = shell_gateway(pairing.shell), []

    def turn(each: Placement) -> str:
        column = gateway.line_item(each.column_url)
        if column.released is None:
            return "unknown"
        if column.released != shown:
            gateway.change_line_item(replace(column, released=shown))
        return "done"

    def settle(outcomes: list[Outcome[Placement, str]]) -> None:
        for each, result in outcomes:
            failed = isinstance(result, OutsideError)
            rows.append(
                {
                    "placement": each.pk,
                    "title": each.title,
                    "result": "failed" if failed else result,
                    "reason": result.failure.message if isinstance(result, OutsideError) else "",
                }
            )

    try:
        run_concurrently(chosen, turn, settle, lambda: True)
    except OutsideError as error:
        raise Refused(
            error.failure.code,
            f"Not all columns could be changed. {error.failure.message}",
            error.failure.remedy,
            503,
        ) from error
    done = sum(row["result"] == "done" for row in rows)
    with transaction.atomic():
        record(
            "relay.shown" if shown else "relay.hidden",
            f"{many(done, 'column is', 'columns are')} {'shown to' if shown else 'kept from'}"
            " learners.",
            pairing=pairing,
            actor=actor,
        )
    return rows
