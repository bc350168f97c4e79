"""Pair a shell with a homework course."""

from __future__ import annotations

from typing import Any

from django.db import IntegrityError, transaction

from vennpair.service.activity.audit import record
from vennpair.service.api.refusals import Refused
from vennpair.service.pair.models import HomeworkCourse, Pairing, Shell
from vennpair.service.pair.queries import require_instructor


def pair_course(shell: Shell, course: HomeworkCourse, actor: Any) -> Pairing:
    """Make the pairing, in state ``ready``. Raises Refused where either side is paired already."""
    require_instructor(actor, shell)
    try:
        with transaction.atomic():
            pairing = Pairing.objects.create(shell=shell, course=course, state=Pairing.State.READY, made_by=actor)
            record("pairing.made", f"{shell.label or shell.title} was paired with {course.title}, {course.code}.", pairing=pairing, actor=actor, after={"course": course.sourced_id})
    except IntegrityError:
        raise _taken(shell, course) from None
    return pairing


def _taken(shell: Shell, course: HomeworkCourse) -> Refused:
    current = Pairing.objects.filter(shell=shell).exclude(state=Pairing.State.ENDED).select_related("course").first()
    if current:
        message = f"This shell is paired already, with {current.course.title}, {current.course.code}."
        return Refused("shell_paired", message, "Use that pairing, or end it first with 'vennpair pair --end'.")
    return Refused("course_paired", f"{course.title}, {course.code}, is paired with another shell already.", "Choose another section, or end the other pairing first.")
