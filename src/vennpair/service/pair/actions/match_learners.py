"""Which account at the publisher is which learner of the shell, where only a person can say."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from django.db import IntegrityError, transaction

from vennpair.core.reconcile.learners import Candidate, fold_email, match
from vennpair.core.reconcile.learners import Learner as Matched
from vennpair.service.activity.audit import record
from vennpair.service.api.refusals import Refused
from vennpair.service.connect.models import User as Person
from vennpair.service.connect.outside import publisher_gateway
from vennpair.service.pair.actions.refresh_roster import refresh_roster
from vennpair.service.pair.models import Learner, LearnerMatch, Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.relay.actions.take_reports import claim_strays
from vennpair.standards.oneroster.objects import User


@dataclass(frozen=True, slots=True)
class OpenAccount:
    """An account that no learner of the shell is known to have, with learners who may be
    its owner.
    """

    student: User
    candidates: tuple[tuple[Learner, Candidate], ...]


def open_accounts(pairing: Pairing) -> list[OpenAccount]:
    """Return the accounts that need a person's word. Raises OutsideError, Refused."""
    roster = refresh_roster(pairing.shell)
    confirmed = dict(
        LearnerMatch.objects.filter(course=pairing.course).values_list("student", "learner_id")
    )
    students = [each for each in own_students(pairing) if each.sourced_id not in confirmed]
    free = [learner for learner in roster if learner.pk not in confirmed.values()]
    keys = {str(each.pk) for each in roster}
    found = match(
        [
            Matched(
                subject_of(each, keys), each.email, f"{each.given_name} {each.family_name}".strip()
            )
            for each in students
        ],
        [Matched(str(each.pk), each.email, each.name) for each in free],
    )
    by_id = {str(each.pk): each for each in free}
    rows = []
    for left in found.open:
        if left.side == "publisher":
            rows.append(
                OpenAccount(
                    students[left.position],
                    tuple(
                        (by_id[each.learner.id], each)
                        for each in left.candidates
                        if each.learner.id in by_id
                    ),
                )
            )
    return rows


def learners_by_account(pairing: Pairing) -> dict[str, Learner]:
    """Return by account at the publisher who of the shell it is: by an instructor's word, by
    launch, by email. Raises OutsideError.
    """
    roster = list(pairing.shell.learners.all())
    confirmed = {
        each.student: each.learner
        for each in LearnerMatch.objects.filter(
            course=pairing.course, learner__shell=pairing.shell
        ).select_related("learner")
    }
    students = [each for each in own_students(pairing) if each.sourced_id not in confirmed]
    keys = {str(each.pk) for each in roster}
    found = match(
        [Matched(subject_of(each, keys), each.email, "") for each in students],
        [Matched(str(each.pk), each.email, "") for each in roster],
    )
    return confirmed | {students[left].sourced_id: roster[right] for left, right in found.pairs}


def confirm_match(
    pairing: Pairing, learner: Learner, student: str, actor: Person | None
) -> LearnerMatch:
    """Note that an account is a learner's.

    Raises Refused where either is matched already or the account is not in the course.
    """
    if actor is not None:  # None: what an instructor ordered, who has left since
        require_instructor(actor, pairing.shell)
    account = next(
        (
            each
            for each in publisher_gateway(pairing.course.publisher).students(
                pairing.course.sourced_id
            )
            if each.sourced_id == student
        ),
        None,
    )
    if account is None:
        raise Refused(
            "unknown_account",
            "The publisher lists no such learner in this homework course.",
            "Look at the list again.",
            404,
        )
    name = f"{account.given_name} {account.family_name}".strip()
    try:
        with transaction.atomic():
            made = LearnerMatch.objects.create(
                learner=learner,
                course=pairing.course,
                student=student,
                name=name[:200],
                email=account.email[:254],
                confirmed_by=actor,
            )
            claim_strays(pairing, student, learner)
            record(
                "learner.matched",
                f"{name} ({account.email}) at the publisher is {learner.name}.",
                pairing=pairing,
                actor=actor,
                after={"account": student, "learner": learner.subject},
            )
    except IntegrityError:
        raise Refused(
            "matched_already",
            f"{name} or {learner.name} is matched already.",
            "Undo that match first.",
        ) from None
    return made


def undo_match(pairing: Pairing, found: LearnerMatch, actor: Person | None) -> None:
    """Take the word back."""
    if actor is not None:  # None: what an instructor ordered, who has left since
        require_instructor(actor, pairing.shell)
    with transaction.atomic():
        record(
            "learner.unmatched",
            f"{found.name} ({found.email}) at the publisher is no longer taken for"
            f" {found.learner.name}.",
            pairing=pairing,
            actor=actor,
            before={"account": found.student},
        )
        found.delete()


def own_students(pairing: Pairing) -> list[User]:
    """Return the course's learners at the publisher, without those of other shells that share it.

    Raises OutsideError.
    """
    return without_foreign(
        pairing, publisher_gateway(pairing.course.publisher).students(pairing.course.sourced_id)
    )


def without_foreign(pairing: Pairing, students: list[User]) -> list[User]:
    """Return the accounts that are not those of learners of another shell that shares the
    course.
    """
    others = Learner.objects.filter(
        shell__in=Pairing.objects.filter(course=pairing.course)
        .exclude(shell=pairing.shell)
        .values("shell")
    )
    subjects = {str(pk) for pk in others.values_list("pk", flat=True)}
    if not subjects:
        return students
    roster = Learner.objects.filter(shell=pairing.shell).values_list("pk", "email")
    mine, addresses = (
        {str(pk) for pk, _ in roster},
        {fold_email(email) for _, email in roster if email},
    )
    foreign = {
        fold_email(email) for email in others.values_list("email", flat=True) if email
    } - addresses
    return [
        each
        for each in students
        if subject_of(each, mine)
        or (not subject_of(each, subjects) and fold_email(each.email) not in foreign)
    ]


def subject_of(student: User, subjects: Collection[str]) -> str:
    """Return the subject that an account launched under as one of ``subjects``, empty where it did
    not.

    Somebody who takes several courses has launched under several.
    """
    return next((each for each in student.lti_subs if each in subjects), "")
