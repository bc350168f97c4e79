"""Pair several shells with several sections in one go: guessed, shown, then done one by one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from vennpair.core.pair.guess import CourseFacts, match_sections
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.actions.pair_course import pair_course
from vennpair.service.pair.actions.refresh_courses import refresh_courses
from vennpair.service.pair.models import HomeworkCourse, Pairing, Shell
from vennpair.service.pair.queries import courses_for, courses_listed

MOST_GUESSED = 500  # courses of a shell that are compared with it


@dataclass(frozen=True, slots=True)
class Row:
    """A shell with the course guessed for it, None where none fits."""

    shell: Shell
    course: HomeworkCourse | None
    reasons: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Outcome:
    """What came of one row: a pairing, or why not."""

    shell: Shell
    pairing: Pairing | None = None
    refused: Refused | None = None


def propose(shells: Sequence[Shell], courses: Sequence[HomeworkCourse]) -> list[Row]:
    """Guess by section number, title and term.

    Every row can be changed before anything is paired.
    """
    guesses = match_sections(
        [CourseFacts(each.title, each.label) for each in shells],
        [CourseFacts(each.title, each.code, each.term) for each in courses],
    )
    return [
        Row(shell, None if guess.course is None else courses[guess.course], guess.reasons)
        for shell, guess in zip(shells, guesses, strict=True)
    ]


def propose_for(user: User, shells: Sequence[Shell], besides: Sequence[Any] = ()) -> list[Row]:
    """Guess among the courses that somebody may see and nobody is paired with, those in ``besides``
    left out. A publisher that was never asked for its courses is asked now.
    """
    if user.institution is not None:
        refresh_courses(user.institution)
    likely = {
        row["id"]
        for shell in shells
        for row in courses_listed(user, "", shell).filter(paired=False)[:MOST_GUESSED]
    }
    courses = courses_for(user).filter(pk__in=likely).exclude(pk__in=besides)
    return propose(shells, list(courses.order_by("pk")))


def pair_several(
    pairs: Sequence[tuple[Shell, HomeworkCourse]], actor: User, *, agreeing: bool
) -> list[Outcome]:
    """Pair each; one that is refused keeps none of the others back."""
    outcomes = []
    for shell, course in pairs:
        try:
            outcomes.append(Outcome(shell, pair_course(shell, course, actor, agreeing=agreeing)))
        except Refused as refused:
            outcomes.append(Outcome(shell, refused=refused))
    return outcomes
