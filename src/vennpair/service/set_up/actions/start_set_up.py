"""Start a set-up as it was planned, stop it, take all of it back."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress

from django.db import transaction
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.service.connect.models import User
from vennpair.service.deploy.actions.start_rollout import start_rollouts
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import start_job
from vennpair.service.operations.actions.stop import stop
from vennpair.service.pair.queries import require_instructors
from vennpair.service.pair.trail import record
from vennpair.service.set_up.actions.plan_set_up import (
    SectionPlan,
    Wishes,
    plan_set_up,
    sections_of,
)
from vennpair.service.set_up.models import Section, SetUp

SECTION, UNDO_SECTION = "section", "undo_section"


def start_set_up(set_up: SetUp, wishes: Wishes, actor: User) -> None:
    """Plan again, and begin with every section that is ready.

    Raises Refused where it was started already or no section is ready, and OutsideError.
    """
    plans = plan_set_up(set_up, wishes, actor)
    planned = [each for each in plans if each.planned is not None]
    if not planned:
        raise Refused("not_ready", *_hindrance(plans))
    going = [each.planned for each in planned if each.planned and each.planned.plan.writes]
    with transaction.atomic():
        locked = SetUp.objects.select_for_update().get(pk=set_up.pk)
        if locked.started_at is not None:
            raise Refused(
                "started_already",
                "This set-up was started already.",
                "Look at how far it is; begin another one for what is new.",
            )
        locked.started_at, locked.complete = timezone.now(), wishes.complete
        locked.scores, locked.access = wishes.scores, wishes.access
        locked.navigation = wishes.navigation
        locked.way, locked.total = wishes.way, wishes.column
        locked.readings, locked.review = wishes.readings, wishes.review
        locked.columns_shown = wishes.columns_shown
        locked.save()
        placing = (
            {each.pairing_id: each.job for each in start_rollouts(going, actor)} if going else {}
        )
        for each in plans:
            if each.message:
                said = {"message": each.message[:500], "remedy": each.remedy[:500]}
                Section.objects.filter(pk=each.section.pk).update(**said)
        for each in planned:
            section = each.section
            section.placing = placing.get(section.paired.pk)
            section.removals = [str(gone.placement.pk) for gone in each.beside.removals]
            section.drifts = [[drift.placement, drift.kind] for drift in each.beside.drifts]
            section.job = start_job(SECTION, section.paired, actor, batch=set_up.pk)
            section.save(update_fields=["placing", "removals", "drifts", "job"])
            record(
                "set_up.started", f"Set-up: {each.sentence}", pairing=section.paired, actor=actor
            )


def _hindrance(plans: Sequence[SectionPlan]) -> tuple[str, str]:
    """Say why nothing can be started, and what to do."""
    found = next((each for each in plans if each.message), None)
    if found is None:
        return (
            "No section of this set-up is ready to be planned.",
            "Wait until their homework courses are read; each section says what it waits for.",
        )
    return found.message, found.remedy


def forget_set_up(set_up: SetUp) -> None:
    """Forget a set-up that was never started. Raises Refused where it was."""
    with transaction.atomic():
        locked = SetUp.objects.select_for_update().get(pk=set_up.pk)
        if locked.started_at is not None:
            raise Refused(
                "started_already",
                "This set-up was started, so what it did is kept on record.",
                "Undo it, if you want; it stays in the list.",
            )
        locked.delete()


def stop_set_up(set_up: SetUp) -> int:
    """Ask every section that still runs to stop; what is in flight is finished first. Return how
    many there are. Raises Refused where none runs.
    """
    running = [
        job
        for each in sections_of(set_up)
        for job in (each.job, *each.parts)
        if job is not None and job.unfinished
    ]
    for job in running:
        with suppress(Refused), transaction.atomic():  # it has ended meanwhile
            stop(job)
    if not running:
        raise Refused("nothing_running", "This set-up has ended already.", "Undo it, if you want.")
    return len({each.pairing_id for each in running})


def undo_set_up(set_up: SetUp, actor: User) -> None:
    """Begin taking back what the set-up did in every section that it was started in.

    Raises Refused where some of it still runs, or nothing is left to undo.
    """
    sections = [each for each in sections_of(set_up) if _may_undo(each)]
    require_instructors(actor, [each.shell for each in sections])
    if any(each.job is not None and each.job.unfinished for each in sections):
        raise Refused("running", "It still runs.", "Stop it first, then undo it.")
    if not sections:
        raise Refused(
            "nothing_to_do", "Nothing of this set-up is left to undo.", "Nothing needs to be done."
        )
    with transaction.atomic():
        for section in sections:
            section.undoing = start_job(
                UNDO_SECTION, section.paired, actor, batch=set_up.pk, undoes=section.job
            )
            section.save(update_fields=["undoing"])
            words = f"All that the set-up of {many(len(sections), 'section')} did is being undone."
            record("set_up.undone", words, pairing=section.paired, actor=actor)


def _may_undo(section: Section) -> bool:
    """Say whether something was begun here, and not undone."""
    begun = section.job is not None or section.paired_here
    return (
        section.pairing is not None
        and begun
        and (section.undoing is None or section.undoing.state == Job.State.FAILED)
    )
