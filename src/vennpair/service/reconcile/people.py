"""The learners of both sides as a comparison knows them, with why somebody may be on one side
only.
"""

from __future__ import annotations

from collections.abc import Sequence

from vennpair.core.reconcile.facts import Person
from vennpair.core.reconcile.learners import fold_email
from vennpair.service.pair.actions.match_learners import subject_of, subs_by
from vennpair.service.pair.models import Learner, LearnerMatch, Pairing
from vennpair.standards.oneroster.objects import User


def people_of_shell(roster: Sequence[Learner]) -> list[Person]:
    """Return the roster; the key is the platform's id of a learner, the subject ours."""
    return [
        Person(
            each.subject,
            each.name,
            each.email,
            each.number,
            str(each.pk),
            "started" if each.first_launch else "never_started",
        )
        for each in roster
    ]


def people_of_publisher(
    pairing: Pairing, students: Sequence[User], roster: Sequence[Learner]
) -> list[Person]:
    """Return the publisher's accounts of the course.

    The subject is of the learner whom an instructor or a launch says they are.
    """
    keys = subs_by(roster)
    confirmed = {
        student: str(learner)
        for student, learner in LearnerMatch.objects.filter(
            course=pairing.course, learner__shell=pairing.shell
        ).values_list("student", "learner_id")
    }
    away, left = _away(pairing)
    elsewhere = _elsewhere(pairing, students, {fold_email(each.email) for each in roster})
    people = []
    for each in students:
        email = fold_email(each.email)
        hint, where = "direct" if not each.lti_subs else "started", ""
        if subject_of(each, away) or (email and email in left):
            hint = "dropped"
        elif email in elsewhere:
            hint, where = "other_section", elsewhere[email]
        subject = confirmed.get(each.sourced_id) or subject_of(each, keys)
        people.append(
            Person(
                each.sourced_id,
                f"{each.given_name} {each.family_name}".strip(),
                each.email,
                each.identifier,
                subject,
                hint,
                where,
            )
        )
    return people


def _away(pairing: Pairing) -> tuple[dict[str, str], set[str]]:
    """Return the subjects and the addresses of learners whom the shell does not list any more."""
    rows = list(
        Learner.objects.filter(shell=pairing.shell, active=False).values_list("sub", "email")
    )
    return {sub: sub for sub, _ in rows}, {fold_email(email) for _, email in rows if email}


def _elsewhere(pairing: Pairing, students: Sequence[User], here: set[str]) -> dict[str, str]:
    """Return by email which other shell of the institution lists it, for those whom this shell does
    not.
    """
    strangers = {fold_email(each.email) for each in students if each.email} - here
    if not strangers:
        return {}
    others = (
        Learner.objects.filter(
            shell__platform__institution=pairing.shell.platform.institution, active=True
        )
        .exclude(shell=pairing.shell)
        .exclude(email="")
    )
    rows = others.order_by("shell__label", "pk").values_list(
        "email", "shell__label", "shell__title"
    )
    found: dict[str, str] = {}
    for email, label, title in rows.iterator():
        if (folded := fold_email(email)) in strangers:
            found.setdefault(folded, label or title)
    return found
