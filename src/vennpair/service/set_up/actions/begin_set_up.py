"""Begin a set-up: pair each shell with its course, and read what the courses hold."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from vennpair.service.connect.models import User
from vennpair.service.content.models import Item
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import UNFINISHED, Job
from vennpair.service.kernel.jobs.running import start_job
from vennpair.service.pair.actions.pair_course import SET_UP, pair_course
from vennpair.service.pair.models import HomeworkCourse, Pairing, Shell
from vennpair.service.pair.queries import require_instructors
from vennpair.service.set_up.models import Section, SetUp


def begin_set_up(
    wanted: Sequence[tuple[Shell, HomeworkCourse | None]], actor: User, *, agreeing: bool
) -> SetUp:
    """Pair each shell that is not paired yet, and read each course of which nothing is known.

    A shell that cannot be paired is kept with the reason, and keeps no other back. Raises Refused
    where somebody may not change one of the shells.
    """
    require_instructors(actor, [shell for shell, _ in wanted])
    with transaction.atomic():
        set_up = SetUp.objects.create(made_by=actor)
        for position, (shell, course) in enumerate(wanted):
            section = Section(set_up=set_up, position=position, shell=shell)
            try:
                _pair(section, course, actor, agreeing)
            except Refused as refused:
                section.message, section.remedy = refused.message[:500], refused.remedy[:500]
            section.save()
    return set_up


def _pair(section: Section, course: HomeworkCourse | None, actor: User, agreeing: bool) -> None:
    shell = section.shell
    pairing = shell.pairings.exclude(state=Pairing.State.ENDED).first()
    if pairing is None:
        if course is None:
            raise Refused(
                "no_course",
                "No homework course was chosen for this shell, and none was found that fits.",
                "Choose one for it, or leave the shell out.",
            )
        pairing = pair_course(shell, course, actor, agreeing=agreeing)
        section.paired_here = True
    section.pairing = pairing
    running = Job.objects.filter(pairing=pairing, kind=SET_UP, state__in=UNFINISHED).first()
    if running is None and not Item.objects.filter(pairing=pairing, gone=False).exists():
        running = start_job(SET_UP, pairing, actor)
    section.reading = running
