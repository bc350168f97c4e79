"""Undo a rollout while no learner has worked."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from vennpair.core.moments import day_words
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.connect.models import User
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.check_as_learner import testers
from vennpair.service.deploy.actions.start_rollout import open_rollout
from vennpair.service.deploy.models import Rollout, Step
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.queries import require_instructor
from vennpair.service.stored import (
    ColumnStep,
    ColumnWrite,
    GradebookStep,
    LinkStep,
    LinkWrite,
    OrderBefore,
    OrderStep,
    RemoveFolderStep,
)
from vennpair.standards.outline import Node


@dataclass(frozen=True, slots=True)
class Undoing:
    """What undoing does with one placement: ``why`` is empty where it is taken out or put back,
    else the reason that it stays.
    """

    placement: Placement
    does: str
    why: str = ""


def plan_undo(rollout: Rollout) -> list[Undoing]:
    """Return what undoing would do with each placement.

    Raises OutsideError, Refused where it is undone already or is an undoing itself.
    """
    if (
        rollout.purpose == Rollout.Purpose.UNDO
        or rollout.job.undone_by.exclude(state=Job.State.FAILED).exists()
    ):
        raise Refused(
            "nothing_to_do", "This rollout was undone already.", "Nothing needs to be done.", 409
        )
    if rollout.purpose == Rollout.Purpose.TAKE_BACK:
        raise Refused(
            "not_undone",
            "Taking links back cannot be undone: their links are new when they are placed again.",
            "Deploy the items again; scores that were kept go with them.",
            409,
        )
    shell = rollout.pairing.shell
    gateway = shell_gateway(shell)
    nodes = {node.id: node for node in gateway.outline(shell.outline_url)}
    found, testing = [], testers(rollout.pairing)
    for placement in (
        Placement.objects.filter(steps__job=rollout.job_id, steps__state=Step.State.DONE)
        .distinct()
        .select_related("item")
        .order_by("item__position")
    ):
        made = rollout.steps.filter(placement=placement, kind="link", state=Step.State.DONE).first()
        if made is None:
            found.append(Undoing(placement, "put back as it was"))
        elif placement.entry_id == made.node:
            found.append(
                Undoing(
                    placement, "take out", _stays(placement, nodes.get(made.node), gateway, testing)
                )
            )
    return found


def start_undo(rollout: Rollout, actor: User) -> Rollout:
    """Enqueue the undoing. Raises Refused where nothing can be undone, and OutsideError."""
    require_instructor(actor, rollout.pairing.shell)
    going = [each for each in plan_undo(rollout) if not each.why]
    steps: list[Step] = []
    for each in going:
        steps += (
            _take_out(each.placement)
            if each.does == "take out"
            else _put_back(rollout, each.placement)
        )
    if going and all(each.does == "take out" for each in going):
        made = rollout.steps.filter(kind="folder", state=Step.State.DONE).order_by("-position")
        steps += [
            Step(
                kind="remove_folder",
                facts=RemoveFolderStep(node=step.node, title=step.facts["title"]),
            )
            for step in made
        ]
    steps += _order_before(rollout)
    if not steps:
        raise Refused(
            "nothing_to_do",
            "Nothing of this rollout can be undone: learners have worked with all of it, or it is"
            " gone.",
            "Take single links back, saying what becomes of their scores.",
            409,
        )
    with transaction.atomic():
        return open_rollout(
            rollout.pairing,
            Rollout.Purpose.UNDO,
            steps,
            actor,
            f"A rollout of {day_words(rollout.made_at)} is being undone.",
            undoes=rollout.job,
            folder=rollout.folder,
        )


def _stays(
    placement: Placement, node: Node | None, gateway: PlatformGateway, testing: set[str]
) -> str:
    if node is not None and node.used:
        return "learners have worked with it"
    if placement.ledger.exists():
        return "scores have come for it"
    try:
        typed = placement.column_url and any(
            each.score is not None and each.user_id not in testing
            for each in gateway.results(placement.column_url)
        )
    except OutsideError:
        return "its column could not be read"
    return "its column holds scores" if typed else ""


def _take_out(placement: Placement) -> list[Step]:
    steps = [Step(kind="remove_link", placement=placement)]
    return (
        [*steps, Step(kind="remove_column", placement=placement)] if placement.column_url else steps
    )


def _put_back(rollout: Rollout, placement: Placement) -> list[Step]:
    """Return the steps that give a changed link the values that it had before the rollout."""
    done = list(
        rollout.steps.filter(placement=placement, state=Step.State.DONE).order_by("position")
    )
    first = next(
        (step for step in done if step.kind == "change_link" and step.facts.get("was")), None
    )
    if first is None:
        return []
    done_to: LinkStep = first.facts
    was = done_to["was"]
    write: LinkWrite = {}
    for name in done_to["write"]:
        if name in was:
            write[name] = was[name]  # type: ignore[literal-required]  # both have it
    back = LinkStep(write=write, stands=was["stands"])
    steps = [Step(kind="change_link", placement=placement, facts=back)]
    if was["stands"]["points"] is not None and placement.column_url:
        steps.append(
            Step(
                kind="change_column",
                placement=placement,
                facts=ColumnStep(
                    write=ColumnWrite(
                        title=was["title"],
                        points=was["stands"]["points"],
                        due_at=was["due_at"],
                        shown_from=was["shown_from"],
                    )
                ),
            )
        )
    return steps


def _order_before(rollout: Rollout) -> Sequence[Step]:
    if rollout.purpose != Rollout.Purpose.ORDER or not rollout.before:
        return []
    before: OrderBefore = rollout.before
    steps = [
        Step(kind="order", facts=OrderStep(folder=folder, children=children))
        for folder, children in before["folders"].items()
    ]
    if columns := before.get("gradebook"):
        steps.append(Step(kind="gradebook", facts=GradebookStep(columns=columns)))
    return steps
