"""Start a rollout: write its steps down and enqueue it."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from vennpair.core.deploy.plan import PlannedLink
from vennpair.service.activity.audit import record
from vennpair.service.api.refusals import Refused
from vennpair.service.deploy.actions.plan_deploy import Planned
from vennpair.service.deploy.models import Placement, Rollout, Step
from vennpair.service.ops.models import Job
from vennpair.service.ops.running import start_job
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor


def start_rollout(pairing: Pairing, planned: Planned, actor: Any) -> Rollout:
    """Turn a plan into steps. Raises Refused where another rollout runs or nothing is left to do."""
    require_instructor(actor, pairing.shell)
    plan = planned.plan
    if not plan.links:
        words = plan.notices[0].message if plan.notices else "All chosen items are placed already."
        raise Refused("nothing_to_do", words, plan.notices[0].remedy if plan.notices else "Nothing needs to be done.", 409)
    with transaction.atomic():
        Pairing.objects.select_for_update(of=("self",)).get(pk=pairing.pk)  # two clicks at once: the second waits here
        running = Job.objects.filter(pairing=pairing, kind="rollout", state__in=[Job.State.QUEUED, Job.State.RUNNING, Job.State.WAITING]).first()
        if running:
            raise Refused("rollout_running", f"A rollout of this pairing is under way ({running.done} of {running.total} steps).", "Wait until it is done; nothing needs to be clicked again.")
        total = len(plan.links) + plan.columns + bool(plan.new_folder)
        job = start_job("rollout", pairing, actor, total, "waits for a worker")
        rollout = Rollout.objects.create(pairing=pairing, job=job, folder=plan.folder, folder_id=planned.folder_id)
        steps = [Step(rollout=rollout, kind="folder")] if plan.new_folder else []
        for link in plan.links:
            steps.extend(_steps(rollout, link))
        for position, step in enumerate(steps):
            step.position = position
        Step.objects.bulk_create(steps)
        record("rollout.started", f"A rollout of {len(plan.links)} items into '{plan.folder or 'the top of the outline'}' was started.", pairing=pairing, actor=actor, after={"items": len(plan.links), "columns": plan.columns})
    return rollout


def _steps(rollout: Rollout, link: PlannedLink) -> list[Step]:
    fields = {"pairing": rollout.pairing, "state": Placement.State.PLANNED, "title": link.title, "folder": rollout.folder, "points": link.points, "due_date": link.due_at}
    placement, _ = Placement.objects.update_or_create(item_id=link.item, defaults=fields)
    steps = [Step(rollout=rollout, kind="link", placement=placement, visible=link.visible)]
    if link.points is not None:
        steps.append(Step(rollout=rollout, kind="column", placement=placement))
    return steps
