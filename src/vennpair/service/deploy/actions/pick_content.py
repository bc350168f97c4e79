"""A platform asks for content (Deep Linking 2.0): what was picked goes back as signed content
items, with its columns.
"""

from __future__ import annotations

import time
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.deploy.plan import Plan, Row, ShellSnapshot, plan_rollout
from vennpair.core.deploy.sheet import Sheet
from vennpair.core.deploy.titles import BadPattern
from vennpair.service.connect.keys import signing_key
from vennpair.service.connect.models import User
from vennpair.service.content.models import Item, Placement
from vennpair.service.deploy.mapping import candidate, custom_of, launch_url, placed_fields, seen_of
from vennpair.service.deploy.models import Picking
from vennpair.service.deploy.step_handlers import TAG
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.models import Pairing, Shell
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.standards.lti.deep_linking import (
    RESOURCE_LINK,
    ContentItem,
    PickRequest,
    PickSettings,
    write_response,
)
from vennpair.standards.lti.grades import LineItem
from vennpair.standards.lti.jwt import sign

LIFE = timedelta(hours=12)


@dataclass(frozen=True, slots=True)
class Answer:
    """What the browser posts back to the platform."""

    url: str
    token: str
    plan: Plan


def begin_picking(shell: Shell, user: Any, asked: PickRequest) -> Picking:
    """Note what a platform asks for."""
    return Picking.objects.create(
        side=Picking.Side.PLATFORM,
        shell=shell,
        user=user,
        deployment_id=asked.launch.deployment_id,
        settings=asdict(asked.settings),
    )


def settings_of(picking: Picking) -> PickSettings:
    """Return what the asking side takes back."""
    facts: dict[str, Any] = {
        name: tuple(value) if isinstance(value, list) else value
        for name, value in picking.settings.items()
    }
    return PickSettings(**facts)


def open_pairing(picking: Picking) -> Pairing | None:
    """Return the pairing of the shell that asks, None while it is not paired."""
    return (
        Pairing.objects.filter(shell=picking.shell)
        .exclude(state__in=[Pairing.State.ENDED, Pairing.State.DRAFT])
        .select_related("shell__platform__institution", "course__publisher")
        .first()
    )


def plan_answer(
    picking: Picking, chosen: Sequence[Any], sheet: Sheet
) -> tuple[Pairing, Plan, dict[str, Item]]:
    """Plan the answer; nothing is changed.

    Raises Refused where the platform does not take what was chosen.
    """
    pairing = _paired(picking)
    _require_taken(settings_of(picking), len(chosen))
    items = {
        str(each.pk): each
        for each in pairing.items.filter(pk__in=chosen, gone=False).select_related(
            "placement", "decision"
        )
    }
    if missing := [each for each in chosen if str(each) not in items]:
        raise Refused(
            "unknown_item",
            f"{len(missing)} of the chosen items are not in this pairing.",
            "Choose from the list.",
            422,
        )
    snapshot = ShellSnapshot((), pairing.shell.zone, timezone.now(), frozenset({"shown_from"}))
    publisher = pairing.course.publisher
    wanted = [candidate(items[str(each)], publisher) for each in dict.fromkeys(map(str, chosen))]
    try:
        plan = plan_rollout(wanted, sheet, snapshot)
    except BadPattern as error:
        raise Refused(
            "bad_pattern",
            f"The pattern for titles is not right: {error}.",
            "Write it with these fields, such as '{unit}: {title}'.",
            422,
        ) from error
    return pairing, plan, items


def _paired(picking: Picking) -> Pairing:
    """Return the pairing that is picked from. Raises Refused where there is none, or this was
    answered, or is too old.
    """
    pairing = open_pairing(picking)
    if pairing is None:
        raise Refused(
            "not_paired",
            "This shell is not paired with a homework course yet, so there is nothing to pick.",
            "Pair it first, then begin again in the shell.",
            409,
        )
    if picking.answered_at or picking.made_at < timezone.now() - LIFE:
        raise Refused(
            "pick_over",
            "This was answered already, or is too old.",
            "Begin again in the shell.",
            409,
        )
    return pairing


def _require_taken(asked: PickSettings, count: int) -> None:
    """Raise Refused where the platform does not take so many links."""
    if RESOURCE_LINK not in asked.accept_types:
        raise Refused(
            "type_not_taken",
            f"The platform does not take links here, only: {', '.join(asked.accept_types)}.",
            "Begin where the platform adds links to tools.",
            409,
        )
    if count > 1 and not asked.accept_multiple:
        raise Refused(
            "one_only",
            "The platform takes one item at a time here.",
            "Choose one; begin again in the shell for the next.",
            422,
        )


def answer_picking(picking: Picking, chosen: Sequence[Any], sheet: Sheet, actor: User) -> Answer:
    """Sign the answer; the placements in it are known to be there once somebody opens them, or the
    outline shows them. Raises Refused.
    """
    require_instructor(actor, picking.shell)
    pairing, plan, items = plan_answer(picking, chosen, sheet)
    asked, made = settings_of(picking), plan.of("make")
    if not made:
        words = plan.notices[0].message if plan.notices else "All chosen items are placed already."
        raise Refused(
            "nothing_to_do",
            words,
            plan.notices[0].remedy if plan.notices else "Choose others.",
            409,
        )
    with transaction.atomic():
        if not Picking.objects.filter(pk=picking.pk, answered_at=None).update(
            answered_at=timezone.now()
        ):
            raise Refused(
                "pick_over", "This was answered already.", "Begin again in the shell.", 409
            )
        content = [
            _content(
                row, _placement(row, items[row.item], pairing, asked.accept_line_item, sheet), asked
            )
            for row in made
        ]
        record(
            "picked",
            f"{many(len(content), 'item was', 'items were')} given to the platform, to put into the"
            " shell.",
            pairing=pairing,
            actor=actor,
            after={"items": len(content)},
        )
    platform, now = picking.shell.platform, int(time.time())
    claims = write_response(
        asked, picking.deployment_id, content, f"{many(len(content), 'item')} from Venn Pair"
    )
    token = sign(
        claims
        | {
            "iss": platform.client_id,
            "aud": platform.issuer,
            "iat": now,
            "exp": now + 300,
            "nonce": f"{picking.pk.hex}{now}",
        },
        signing_key(),
    )
    return Answer(asked.return_url, token, plan)


def _placement(
    row: Row, item: Item, pairing: Pairing, with_column: bool, sheet: Sheet
) -> Placement:
    target = row.target if with_column else row.target.with_points(None)
    fields = placed_fields(target, seen_of(item), sheet.shift_days or 0) | {"points": target.points}
    made, _ = Placement.objects.update_or_create(
        item=item,
        defaults={
            "pairing": pairing,
            "state": Placement.State.WRITTEN,
            "entry_id": "",
            "resource_link_id": "",
        }
        | fields,
    )
    return made


def _content(row: Row, placement: Placement, asked: PickSettings) -> ContentItem:
    target = row.target
    column = (
        LineItem(target.title, target.points, resource_id=str(placement.pk), tag=TAG)
        if target.points is not None and asked.accept_line_item
        else None
    )
    window = target.new_window and "window" in asked.accept_targets
    return ContentItem(
        RESOURCE_LINK,
        target.title,
        launch_url(),
        "",
        custom_of(placement),
        column,
        target.shown_from,
        target.due_at,
        window,
    )
