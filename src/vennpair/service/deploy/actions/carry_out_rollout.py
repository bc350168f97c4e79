"""Carry out a rollout: claim a step, call the platform, settle; from wherever it was left.

A step's id is its idempotency key, and a column is looked for before it is made, so that a worker
killed between the platform's answer and our note of it makes nothing twice.
"""

from __future__ import annotations

from collections.abc import Callable
from decimal import Decimal
from functools import partial

from django.conf import settings
from django.db import transaction

from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.activity.audit import record
from vennpair.service.deploy.arrange import arrange
from vennpair.service.deploy.models import Placement, Rollout, Step
from vennpair.service.ops.flight import IN_FLIGHT, Outcome, fly
from vennpair.service.ops.models import Job
from vennpair.service.ops.running import step_done
from vennpair.service.pair.actions.go_live import go_live
from vennpair.service.pair.consent import shell_gateway
from vennpair.standards.lti.grades import LineItem

Settle = Callable[[], None]


def carry_out_rollout(job: Job) -> str:
    """Do every step that is not done. Raises OutsideError where the platform asks for patience.

    Links are placed side by side and put in order afterwards; columns are made one after another, as a gradebook shows
    them in the order in which they came.
    """
    rollout = Rollout.objects.select_related("pairing__shell__platform").get(job=job)
    gateway = shell_gateway(rollout.pairing.shell)
    for kind, width in (("folder", 1), ("link", IN_FLIGHT), ("column", 1)):
        steps = list(rollout.steps.filter(kind=kind, state__in=[Step.State.PENDING, Step.State.IN_FLIGHT]).select_related("placement"))
        Step.objects.filter(pk__in=[step.pk for step in steps]).update(state=Step.State.IN_FLIGHT)
        fly(steps, partial(_CALLS[kind], gateway, rollout), partial(_settle, job, rollout), lambda: True, width)
    placed = list(rollout.steps.filter(kind="link", state=Step.State.DONE).order_by("position").values_list("placement__entry_id", flat=True))
    arrange(gateway, rollout.pairing.shell.outline_url, placed, placed)
    return _finish(job, rollout, gateway)


def _settle(job: Job, rollout: Rollout, outcomes: list[Outcome[Step, Settle]]) -> None:
    """Record what came of some steps."""
    for step, result in outcomes:
        if not isinstance(result, OutsideError):
            with transaction.atomic():
                result()
                Step.objects.filter(pk=step.pk).update(state=Step.State.DONE, message="")
                step_done(job, f"placing into '{rollout.folder or 'the top'}'")
        elif result.failure.kind is FailureKind.LATER:
            Step.objects.filter(pk=step.pk).update(state=Step.State.PENDING, message=result.failure.message[:500])
        else:
            _fail(job, step, result)


def _folder(gateway: PlatformGateway, rollout: Rollout, step: Step) -> Settle:
    node = gateway.make_folder(rollout.pairing.shell.outline_url, rollout.folder, str(step.pk))

    def settle() -> None:
        rollout.folder_id = node.id
        rollout.save(update_fields=["folder_id"])

    return settle


def _link(gateway: PlatformGateway, rollout: Rollout, step: Step) -> Settle:
    placement = step.placement
    node = gateway.make_entry(
        rollout.pairing.shell.outline_url,
        "lti_link",
        str(step.pk),
        title=placement.title,
        folder=rollout.folder_id,
        visible=step.visible,
        url=f"{settings.BASE_URL}/lti/launch",
        custom={"placement": str(placement.pk)},
    )

    def settle() -> None:
        placement.entry_id, placement.resource_link_id = node.id, node.resource_link_id
        placement.state = Placement.State.PLANNED if placement.points is not None else Placement.State.PLACED
        placement.save(update_fields=["entry_id", "resource_link_id", "state"])

    return settle


def _column(gateway: PlatformGateway, rollout: Rollout, step: Step) -> Settle:
    placement = step.placement
    wanted = LineItem(placement.title, Decimal(placement.points).normalize(), "", str(placement.pk), placement.resource_link_id, "vennpair", "", placement.due_date)
    column = gateway.ensure_line_item(rollout.pairing.shell.lineitems_url, wanted)

    def settle() -> None:
        placement.column_url, placement.state = column.id, Placement.State.PLACED
        placement.save(update_fields=["column_url", "state"])

    return settle


_CALLS: dict[str, Callable[[PlatformGateway, Rollout, Step], Settle]] = {"folder": _folder, "link": _link, "column": _column}


def _fail(job: Job, step: Step, error: OutsideError) -> None:
    """Record a step that will not work, and what depends on it."""
    with transaction.atomic():
        rest = Step.objects.filter(rollout=step.rollout, state__in=[Step.State.PENDING, Step.State.IN_FLIGHT])
        lost = rest if step.kind == "folder" else rest.filter(placement=step.placement)
        message = f"{error.failure.message} {error.failure.remedy}"[:500]
        Placement.objects.filter(steps__in=lost).update(state=Placement.State.FAILED)
        lost.update(state=Step.State.FAILED, message=message)
        step_done(job, "some steps failed")


def _finish(job: Job, rollout: Rollout, gateway: PlatformGateway) -> str:
    """Read back what stands in the shell now, and turn the pairing live at its first rollout."""
    pairing = rollout.pairing
    entries = {node.id for node in gateway.outline(pairing.shell.outline_url)}
    columns = {item.id for item in gateway.line_items(pairing.shell.lineitems_url)}
    placed = [step.placement for step in rollout.steps.filter(kind="link", state=Step.State.DONE).select_related("placement")]
    missing = [each for each in placed if each.entry_id not in entries or (each.column_url and each.column_url not in columns)]
    failed = rollout.steps.filter(state=Step.State.FAILED, kind__in=["link", "column"]).values("placement").distinct().count()
    with transaction.atomic():
        for each in missing:
            Placement.objects.filter(pk=each.pk).update(state=Placement.State.FAILED)
        if placed:
            go_live(pairing, "with its first rollout")
        good = len(placed) - len(missing)
        message = f"{good} items placed and read back" + (f", {failed + len(missing)} not placed: see the steps" if failed or missing else "")
        record("rollout.done", f"Rollout done: {message}.", pairing=pairing, actor=job.made_by)
    return message
