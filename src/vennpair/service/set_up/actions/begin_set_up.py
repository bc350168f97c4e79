"""Begin a set-up: pair each shell with its course, and read what the courses hold."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from vennpair.service.connect.models import User
from vennpair.service.content.models import Item
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import UNFINISHED, Job
from vennpair.service.kernel.jobs.running import start_job
from vennpair.service.pair.actions.pair_course import SET_UP, pair_course, pair_new
from vennpair.service.pair.models import HomeworkCourse, Pairing, Shell, Title
from vennpair.service.pair.queries import require_instructors
from vennpair.service.set_up.models import Section, SetUp


@dataclass(frozen=True, slots=True)
class Wanted:
    """A shell and the course that it gets: one that is there, shared with another shell where
    ``sharing`` says so, or one that the publisher makes, in a ``way`` (pair_course.WAYS) from its
    ``source`` under a ``name``.
    """

    shell: Shell
    course: HomeworkCourse | None = None
    sharing: bool = False
    way: str = ""
    source: Title | HomeworkCourse | None = None
    name: str = ""


def begin_set_up(wanted: Sequence[Wanted], actor: User, *, agreeing: bool) -> SetUp:
    """Pair each shell that is not paired yet, and read each course of which nothing is known.

    A shell that cannot be paired is kept with the reason, and keeps no other back. Raises Refused
    where somebody may not change one of the shells.
    """
    require_instructors(actor, [each.shell for each in wanted])
    with transaction.atomic():
        set_up = SetUp.objects.create(made_by=actor)
        for position, each in enumerate(wanted):
            section = Section(set_up=set_up, position=position, shell=each.shell)
            try:
                _pair(section, each, actor, agreeing)
            except Refused as refused:
                section.message, section.remedy = refused.message[:500], refused.remedy[:500]
            section.save()
    return set_up


def _pair(section: Section, wanted: Wanted, actor: User, agreeing: bool) -> None:
    pairing = wanted.shell.pairings.exclude(state=Pairing.State.ENDED).first()
    if pairing is None:
        pairing = _paired(wanted, actor, agreeing)
        section.paired_here = True
    section.pairing = pairing
    running = Job.objects.filter(pairing=pairing, kind=SET_UP, state__in=UNFINISHED).first()
    if running is None and not Item.objects.filter(pairing=pairing, gone=False).exists():
        running = start_job(SET_UP, pairing, actor)
    section.reading = running


def _paired(wanted: Wanted, actor: User, agreeing: bool) -> Pairing:
    """Pair a shell with its course. Raises Refused."""
    if wanted.source is not None:
        return pair_new(
            wanted.shell, wanted.way, wanted.source, actor, name=wanted.name, agreeing=agreeing
        )
    if wanted.course is None:
        raise Refused(
            "no_course",
            "No homework course was chosen for this shell, and none was found that fits.",
            "Choose one for it, or leave the shell out.",
        )
    return pair_course(
        wanted.shell, wanted.course, actor, agreeing=agreeing, sharing=wanted.sharing
    )
