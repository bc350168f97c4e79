"""Carry out a rollout, from wherever it was left.

Folders first, then everything else side by side, the steps of one placement in their order; then
order and categories; then what is in the shell is read back.
"""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import QuerySet

from vennpair.core.counting import many
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.finish_rollout import finish_rollout
from vennpair.service.deploy.models import Rollout, Step
from vennpair.service.deploy.ordering import arrange_folders, arrange_gradebook
from vennpair.service.deploy.step_handlers import Handlers
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked
from vennpair.service.operations.runner import Record, StepRunner
from vennpair.service.operations.steps import stop_rest
from vennpair.service.pair.consent import shell_gateway

_ORDERS = ["order", "gradebook"]
_OF_ITEMS = ["link", "change_link", "change_column", "remove_link", "remove_column"]
_DOES = {
    "folder": "making the folder",
    "link": "placing",
    "column": "making the column of",
    "page": "adding the links to the page",
    "remove_folder": "removing the folder",
    "show_folders": "showing the folders around",
    "order": "putting things in order",
    "gradebook": "putting things in order",
}


def carry_out_rollout(job: Job) -> str:
    """Do every step that is not done.

    Raises OutsideError where the platform asks for patience, Cancelled where somebody stopped it.
    """
    rollout = Rollout.objects.select_related(
        "pairing__shell__platform", "pairing__course__publisher"
    ).get(job=job)
    gateway = shell_gateway(rollout.pairing.shell)
    running = _RolloutRunner(job, rollout, gateway)
    running.folders()
    if not cancel_asked(job):
        running.items()
        running.late("page", "show_folders", "remove_folder")
    _arrange(rollout, gateway)
    running.late(*_ORDERS)
    if cancel_asked(job):
        raise Cancelled(_stopped(rollout))
    return finish_rollout(job, rollout, gateway)


class _RolloutRunner(StepRunner[Step]):
    """The steps of one rollout on their way."""

    def __init__(self, job: Job, rollout: Rollout, gateway: PlatformGateway) -> None:
        super().__init__(job, job.deploy_steps.all())
        self.rollout = rollout
        made = self.steps.filter(kind="folder", state=Step.State.DONE).values_list(
            "facts__key", "node"
        )
        self.handlers = Handlers(gateway, rollout, dict(made))
        self.ordered = True
        self.placements: dict[Any, Placement] = {}
        if self.planned().filter(kind="column").exists():
            there = gateway.line_items(rollout.pairing.shell.lineitems_url)
            self.handlers.columns = {
                each.resource_id: each.id for each in there if each.resource_id
            }
            self.handlers.scored = set(
                Placement.objects.filter(pairing=rollout.pairing, cells__isnull=False).values_list(
                    "pk", flat=True
                )
            )
            self.ordered = (
                "gradebook" in gateway.outline_and_offers(rollout.pairing.shell.outline_url)[1]
            )

    def call(self, step: Step) -> Record:
        """Make the call of a step."""
        return self.handlers.call(step)

    def does(self, step: Step) -> str:
        """Say what a step does, while it runs."""
        other = "changing" if step.kind.startswith("change") else "removing"
        doing = _DOES.get(step.kind, other)
        return f"{doing} '{step.title[:100]}'" if step.title else doing

    def failed(self, step: Step, message: str) -> None:
        """Record a step that will not work, and what depends on it."""
        lost = _depending(step)
        if step.kind in {"folder", "link", "column"}:
            Placement.objects.filter(
                steps__in=lost,
                state__in=[Placement.State.PLANNED, Placement.State.PLACED],
                column_url="",
            ).update(state=Placement.State.FAILED)
        lost.update(state=Step.State.FAILED, message=message[:500])
        super().failed(step, message)

    def folders(self) -> None:
        """Make folders level by level, those of one level side by side."""
        while ready := [step for step in self._open("folder") if self._has_parent(step)]:
            self.run(ready)
            if not self.goes_on() or all(step.state == Step.State.FAILED for step in ready):
                return

    def items(self) -> None:
        """Do what belongs to placements: each one's steps in their order, the placements side by
        side.
        """
        chains: dict[Any, list[Step]] = {}
        for step in self._open(*_OF_ITEMS, *(["column"] if self.ordered else [])):
            chains.setdefault(step.placement_id, []).append(step)
        self.run_chains(chains)
        # A gradebook that cannot be ordered shows columns as they came, so there they are made one
        # after another.
        self.late(*([] if self.ordered else ["column"]))

    def late(self, *kinds: str) -> None:
        """Do one after another what needs all the rest to be there."""
        steps = self._open(*kinds)
        for step in steps:
            if step.kind == "page":
                wanted = self.rollout.pairing.placements.filter(pk__in=step.facts["placements"])
                titles = wanted.placed().values_list("pk", "title")
                self.handlers.titles = {str(key): title for key, title in titles}
        self.run(steps, width=1)

    def _open(self, *kinds: str) -> list[Step]:
        steps = list(self.planned().filter(kind__in=kinds).select_related("placement__pairing"))
        for step in steps:
            if step.placement is not None:
                # One object for all steps of a placement: what one settles the next one reads.
                step.placement = self.placements.setdefault(step.placement_id, step.placement)
        return steps

    def _has_parent(self, step: Step) -> bool:
        parent = step.facts["parent"]
        return not parent.startswith("new-") or parent in self.handlers.folders


def _depending(step: Step) -> QuerySet[Step]:
    """Return a step and those that cannot be done without it."""
    rest = Step.objects.filter(job=step.job_id, state=Step.State.PLANNED)
    if step.kind != "folder":
        return rest.filter(placement=step.placement) if step.placement else rest.filter(pk=step.pk)
    inside = [step.facts["key"]]
    for each in rest.filter(kind="folder").order_by("position"):
        inside += [each.facts["key"]] if each.facts["parent"] in inside else []
    held = rest.filter(facts__write__folder__in=inside).values_list("placement", flat=True)
    return (
        rest.filter(pk=step.pk)
        | rest.filter(placement__in=held)
        | rest.filter(kind="folder", facts__key__in=inside)
    )


def _arrange(rollout: Rollout, gateway: PlatformGateway) -> None:
    """Put what was made into its order. Raises OutsideError."""
    done = rollout.steps.filter(state=Step.State.DONE)
    fresh = list(done.filter(kind="link").values_list("placement", flat=True))
    changed = done.filter(kind="change_link")
    moved = list(changed.filter(facts__write__has_key="folder").values_list("placement", flat=True))
    columns = list(done.filter(kind="column").values_list("placement", flat=True))
    folders = list(done.filter(kind="folder").values_list("node", flat=True))
    wanted = Placement.objects.filter(pk__in=[*fresh, *moved, *columns])
    placements = {each.pk: each for each in wanted.select_related("item")}
    if fresh or moved or folders:
        links = [placements[key] for key in [*fresh, *moved] if placements[key].entry_id]
        arrange_folders(gateway, rollout, links, folders)
    touched = bool(columns) or changed.exists()
    outline_url = rollout.pairing.shell.outline_url
    if touched and "gradebook" in gateway.outline_and_offers(outline_url)[1]:
        arrange_gradebook(gateway, rollout, [placements[key] for key in columns])


def _stopped(rollout: Rollout) -> str:
    """Give up what was not begun; return how far it came. What was done stays, in its order."""
    with transaction.atomic():
        rest = rollout.steps.filter(state=Step.State.PLANNED)
        Placement.objects.filter(steps__in=rest, state=Placement.State.PLANNED).update(
            state=Placement.State.FAILED
        )
        left = stop_rest(rest)
    done = rollout.steps.filter(state=Step.State.DONE).count()
    return f"{many(done, 'step was', 'steps were')} done, {left} not begun"
