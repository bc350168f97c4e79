"""Carry out a rollout: claim steps, call the platform, settle; from wherever it was left.

Folders first, then everything else side by side, the steps of one placement in their order; then
order and categories; then what stands in the shell is read back.
"""

from __future__ import annotations

import time
from collections.abc import Sequence
from typing import Any

from django.db import transaction

from vennpair.core.counting import many
from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.finish_rollout import finish_rollout
from vennpair.service.deploy.models import Rollout, Step
from vennpair.service.deploy.ordering import (
    arrange_folders,
    arrange_gradebook,
    settle_folders,
    settle_gradebook,
)
from vennpair.service.deploy.step_handlers import Carrier, Settle
from vennpair.service.kernel.jobs.concurrency import Outcome, WorkQueue, run_concurrently
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked, step_done
from vennpair.service.pair.consent import shell_gateway

ORDERING = ["order", "gradebook"]
LOOK_SECONDS = 0.3


def carry_out_rollout(job: Job) -> str:
    """Do every step that is not done.

    Raises OutsideError where the platform asks for patience, Cancelled where somebody stopped it.
    """
    rollout = Rollout.objects.select_related(
        "pairing__shell__platform", "pairing__course__publisher"
    ).get(job=job)
    gateway = shell_gateway(rollout.pairing.shell)
    carrying = _Carrying(job, rollout, gateway)
    carrying.folders()
    if not cancel_asked(job):
        carrying.items()
        carrying.late("page", "show_folders", "remove_folder")
    _arrange(job, rollout, gateway)
    if cancel_asked(job):
        raise Cancelled(_stopped(rollout, gateway))
    return finish_rollout(job, rollout, gateway)


class _Carrying:
    """The steps of one rollout on their way."""

    def __init__(self, job: Job, rollout: Rollout, gateway: PlatformGateway) -> None:
        self.job, self.rollout = job, rollout
        made = rollout.steps.filter(kind="folder", state=Step.State.DONE).values_list(
            "facts__key", "node"
        )
        self.carrier = Carrier(gateway, rollout, dict(made))
        self.ordered = True
        self._looked, self._stopped = 0.0, False
        self.placements: dict[Any, Placement] = {}
        if rollout.steps.filter(kind="column", state=Step.State.PENDING).exists():
            there = gateway.line_items(rollout.pairing.shell.lineitems_url)
            self.carrier.columns = {each.resource_id: each.id for each in there if each.resource_id}
            self.carrier.scored = set(
                Placement.objects.filter(pairing=rollout.pairing, cells__isnull=False).values_list(
                    "pk", flat=True
                )
            )
            self.ordered = (
                "gradebook" in gateway.outline_and_offers(rollout.pairing.shell.outline_url)[1]
            )

    def goes_on(self) -> bool:
        """Say whether nobody has asked to stop.

        Asked of the database a few times a second, as every answer costs time.
        """
        if time.monotonic() - self._looked > LOOK_SECONDS:
            self._looked, self._stopped = time.monotonic(), cancel_asked(self.job)
        return not self._stopped

    def folders(self) -> None:
        """Make folders level by level, those of one level side by side."""
        while ready := [step for step in self._open("folder") if self._has_parent(step)]:
            self._fly(WorkQueue(ready), {})
            if cancel_asked(self.job) or all(
                step.state == Step.State.FAILED for step in self._now(ready)
            ):
                return

    def items(self) -> None:
        """Do what belongs to placements: each one's steps in their order, the placements side by
        side.
        """
        rest: dict[Any, list[Step]] = {}
        kinds = ["link", "change_link", "change_column", "remove_link", "remove_column"]
        for step in self._open(*kinds, *(["column"] if self.ordered else [])):
            rest.setdefault(step.placement_id, []).append(step)
        self._fly(WorkQueue([steps.pop(0) for steps in rest.values()]), rest)
        # A gradebook that cannot be ordered shows columns as they came, so there they are made one
        # after another.
        self.late(*([] if self.ordered else ["column"]))

    def late(self, *kinds: str) -> None:
        """Do one after another what needs all the rest to stand."""
        for step in self._open(*kinds):
            if step.kind == "page":
                wanted = self.rollout.pairing.placements.filter(pk__in=step.facts["placements"])
                titles = wanted.placed().values_list("pk", "title")
                self.carrier.titles = {str(key): title for key, title in titles}
            self._fly(WorkQueue([step]), {})

    def _open(self, *kinds: str) -> list[Step]:
        steps = list(
            self.rollout.steps.filter(kind__in=kinds, state=Step.State.PENDING)
            .select_related("placement__pairing")
            .order_by("position")
        )
        for step in steps:
            if (
                step.placement is not None
            ):  # one object for all steps of a placement: what one settles the next one reads
                step.placement = self.placements.setdefault(step.placement_id, step.placement)
        return steps

    def _has_parent(self, step: Step) -> bool:
        parent = step.facts["parent"]
        return not parent.startswith("new-") or parent in self.carrier.folders

    def _now(self, steps: Sequence[Step]) -> list[Step]:
        return list(Step.objects.filter(pk__in=[step.pk for step in steps]))

    def _fly(self, line: WorkQueue[Step], rest: dict[Any, list[Step]]) -> None:
        def settle(outcomes: list[Outcome[Step, Settle]]) -> None:
            with transaction.atomic():
                done = [step for step, result in outcomes if self._settle(step, result)]
                if done:
                    step_done(self.job, words_of(done[-1]), len(done))
            for step in done:
                if rest.get(step.placement_id):
                    line.add(rest[step.placement_id].pop(0))

        run_concurrently(line, self.carrier.call, settle, self.goes_on)

    def _settle(self, step: Step, result: Settle | OutsideError) -> bool:
        """Record what came of a step; say whether the next one of its placement can be done."""
        if not isinstance(result, OutsideError):
            result()
            Step.objects.filter(pk=step.pk).update(
                state=Step.State.DONE, message="", node=step.node
            )
            return True
        if result.failure.kind is FailureKind.LATER:
            Step.objects.filter(pk=step.pk).update(message=result.failure.message[:500])
        else:
            _fail(self.job, step, result)
        return False


def words_of(step: Step) -> str:
    """Say what a step did, while it runs."""
    doing = {
        "folder": "making the folder",
        "link": "placing",
        "column": "making the column of",
        "page": "adding the links to the page",
        "remove_folder": "removing the folder",
        "show_folders": "showing the folders around",
    }
    verb = doing.get(step.kind, "changing" if step.kind.startswith("change") else "removing")
    title = step.placement.title if step.placement else step.facts.get("title", "")
    return f"{verb} '{title[:100]}'" if title else verb


def _fail(job: Job, step: Step, error: OutsideError) -> None:
    """Record a step that will not work, and what depends on it."""
    rest = Step.objects.filter(rollout=step.rollout, state=Step.State.PENDING)
    if step.kind == "folder":
        inside = [step.facts["key"]]
        for each in rest.filter(kind="folder").order_by("position"):
            inside += [each.facts["key"]] if each.facts["parent"] in inside else []
        held = rest.filter(facts__write__folder__in=inside).values_list("placement", flat=True)
        lost = (
            rest.filter(pk=step.pk)
            | rest.filter(placement__in=held)
            | rest.filter(kind="folder", facts__key__in=inside)
        )
    else:
        lost = (
            rest.filter(placement=step.placement) if step.placement_id else rest.filter(pk=step.pk)
        )
    message = f"{error.failure.message} {error.failure.remedy}"[:500]
    if step.kind in {"folder", "link", "column"}:
        Placement.objects.filter(
            steps__in=lost,
            state__in=[Placement.State.PLANNED, Placement.State.PLACED],
            column_url="",
        ).update(state=Placement.State.FAILED)
    lost.update(state=Step.State.FAILED, message=message)
    step_done(job, "some steps failed")


def _arrange(job: Job, rollout: Rollout, gateway: PlatformGateway) -> None:
    """Put what was made into its order; steps that are nothing but order come last."""
    shell = rollout.pairing.shell
    fresh = list(
        rollout.steps.filter(kind="link", state=Step.State.DONE)
        .order_by("position")
        .values_list("placement", flat=True)
    )
    moved = list(
        rollout.steps.filter(
            kind="change_link", state=Step.State.DONE, facts__write__has_key="folder"
        )
        .order_by("position")
        .values_list("placement", flat=True)
    )
    columns = list(
        rollout.steps.filter(kind="column", state=Step.State.DONE)
        .order_by("position")
        .values_list("placement", flat=True)
    )
    placements = {
        each.pk: each
        for each in Placement.objects.filter(pk__in=[*fresh, *moved, *columns]).select_related(
            "item"
        )
    }
    folders = list(
        rollout.steps.filter(kind="folder", state=Step.State.DONE)
        .order_by("position")
        .values_list("node", flat=True)
    )
    if fresh or moved or folders:
        arrange_folders(
            gateway,
            rollout,
            [placements[key] for key in [*fresh, *moved] if placements[key].entry_id],
            folders,
        )
    touched = (
        bool(columns) or rollout.steps.filter(kind="change_link", state=Step.State.DONE).exists()
    )
    if touched and "gradebook" in gateway.outline_and_offers(shell.outline_url)[1]:
        arrange_gradebook(gateway, rollout, [placements[key] for key in columns])
    for step in rollout.steps.filter(kind__in=ORDERING, state=Step.State.PENDING).order_by(
        "position"
    ):
        if step.kind == "order":
            settle_folders(
                gateway, shell.outline_url, {step.facts["folder"]: step.facts["children"]}
            )
        else:
            settle_gradebook(gateway, shell.outline_url, step.facts["columns"])
        with transaction.atomic():
            Step.objects.filter(pk=step.pk).update(state=Step.State.DONE)
            step_done(job, "putting things in order")


def _stopped(rollout: Rollout, gateway: PlatformGateway) -> str:
    """Give up what was not begun; return how far it came. What was done stays, in its order."""
    with transaction.atomic():
        rest = rollout.steps.filter(state=Step.State.PENDING)
        Placement.objects.filter(steps__in=rest, state=Placement.State.PLANNED).update(
            state=Placement.State.FAILED
        )
        left = rest.count()
        rest.update(state=Step.State.CANCELLED, message="Stopped before it was begun.")
    done = rollout.steps.filter(state=Step.State.DONE).count()
    return f"{many(done, 'step was', 'steps were')} done, {left} not begun"
