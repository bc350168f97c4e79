"""Which account at the publisher is which learner of the shell, where only a person can say."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from django.db import IntegrityError, transaction

from vennpair.core.reconcile.learners import Candidate, fold_email, match
from vennpair.core.reconcile.learners import Learner as Matched
from vennpair.core.reconcile.live import SUBJECT
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.connect.models import User as Person
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.actions.refresh_roster import refresh_roster
from vennpair.service.pair.hooks import account_matched
from vennpair.service.pair.models import Learner, LearnerMatch, Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
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
    found = match(*_both_sides(students, free))
    rows = []
    for left in found.open:
        if left.side == "publisher":
            rows.append(
                OpenAccount(
                    students[left.position],
                    tuple(
                        (free[each.position], each)
                        for each in left.candidates
                        if each.position >= 0
                    ),
                )
            )
    return rows


def learners_by_account(pairing: Pairing) -> dict[str, Learner]:
    """Return by account at the publisher who of the shell it is: by an instructor's word, by
    launch, by the institution's id, by email. Raises OutsideError.
    """
    roster = list(pairing.shell.learners.all())
    confirmed = {
        each.student: each.learner
        for each in LearnerMatch.objects.filter(
            course=pairing.course, learner__shell=pairing.shell
        ).select_related("learner")
    }
    students = [each for each in own_students(pairing) if each.sourced_id not in confirmed]
    found = match(*_both_sides(students, roster))
    return confirmed | {students[left].sourced_id: roster[right] for left, right in found.pairs}


def _both_sides(
    students: Sequence[User], roster: Sequence[Learner]
) -> tuple[list[Matched], list[Matched]]:
    """Return both sides to be matched: whoever launched by that, the others by the institution's
    id.
    """
    subs = subs_by(roster)
    keys = [subject_of(each, subs) for each in students]
    launched = set(filter(None, keys))
    left = [
        Matched(
            SUBJECT + key if key else each.identifier,
            each.email,
            f"{each.given_name} {each.family_name}".strip(),
        )
        for each, key in zip(students, keys, strict=True)
    ]
    right = [
        Matched(
            SUBJECT + str(each.pk) if str(each.pk) in launched else each.number,
            each.email,
            each.name,
        )
        for each in roster
    ]
    return left, right


def subs_by(roster: Iterable[Learner]) -> dict[str, str]:
    """Return our ids of learners by the subject under which publishers know them."""
    return {each.sub: str(each.pk) for each in roster}


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
            "The publisher does not list this learner in this homework course.",
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
            account_matched(pairing, student, learner)
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
    subjects = {sub: sub for sub in others.values_list("sub", flat=True)}
    if not subjects:
        return students
    roster = Learner.objects.filter(shell=pairing.shell).values_list("sub", "email")
    mine, addresses = (
        {sub: sub for sub, _ in roster},
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


def subject_of(student: User, subjects: Mapping[str, str]) -> str:
    """Return what ``subjects`` says of the one under which an account launched, empty where it did
    not launch under any.
    """
    return next((subjects[each] for each in student.lti_subs if each in subjects), "")
