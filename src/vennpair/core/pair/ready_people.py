"""Readiness of people: roles on both sides, learners who are at the publisher already, what
learners are told.
"""

from __future__ import annotations

from dataclasses import dataclass

from vennpair.core.counting import many
from vennpair.core.pair.checks import Check, named


@dataclass(frozen=True, slots=True)
class PeopleFacts:
    """Names are for people to read; ``teachers`` are the course's at the publisher, None where it
    does not say.

    ``linked`` is the user's account there, empty where none is linked. ``enrolled`` are registered
    at the publisher with the shell's address and have not launched; ``strangers`` with an address
    that the shell does not know.
    """

    publisher: str
    instructor: bool
    linked: str = ""
    teaches: bool | None = None
    teachers: tuple[str, ...] | None = None
    enrolled: tuple[str, ...] = ()
    strangers: tuple[str, ...] = ()
    confirmed: int = 0
    links: int = 0
    learners: int = 0
    opened: int = 0
    access: str = ""


def checks(facts: PeopleFacts) -> list[Check]:
    """Return the checks of people."""
    return [
        _role(facts),
        _account(facts),
        _strangers(facts),
        *_enrolled(facts),
        *_opened(facts),
        _told(facts),
    ]


def _role(facts: PeopleFacts) -> Check:
    if facts.instructor:
        return Check("role_shell", "ok", "You may set up in this shell.")
    return Check(
        "role_shell",
        "warn",
        "You may look and compare in this shell, not change anything.",
        "Ask its instructor to set up, or your administrator to make you a course designer.",
    )


def _account(facts: PeopleFacts) -> Check:
    who = named(facts.teachers) if facts.teachers else "nobody that it names"
    if not facts.linked:
        return Check(
            "role_publisher",
            "warn",
            f"Your account at {facts.publisher} is not linked; the course is taught there by"
            f" {who}.",
            "Link it once under Accounts; it is needed to make or copy courses.",
        )
    if facts.teaches is False:
        return Check(
            "role_publisher",
            "warn",
            f"Your account there, {facts.linked}, does not teach this homework course; {who} does.",
            "Ask them to add you, or check under Accounts that the right account is linked.",
        )
    return Check(
        "role_publisher",
        "ok",
        f"You teach this homework course at {facts.publisher} as {facts.linked}.",
    )


def _strangers(facts: PeopleFacts) -> Check:
    if not facts.strangers:
        return Check(
            "strangers",
            "ok",
            "No learner is registered at the publisher under an address that the shell does not"
            " know.",
        )
    verb = many(len(facts.strangers), "learner is", "learners are")
    message = (
        f"{verb} registered at the publisher under an address that the shell does not know:"
        f" {named(facts.strangers)}. Opening a link would give them a second account."
    )
    return Check(
        "strangers",
        "warn",
        message,
        "Say who they are under Pair, Learners; nothing is merged unless you confirm it. Or ask them to"
        " change their address at the publisher.",
    )


def _enrolled(facts: PeopleFacts) -> list[Check]:
    if not facts.enrolled:
        return []
    verb = many(len(facts.enrolled), "learner is", "learners are")
    message = (
        f"{verb} registered at the publisher already, with their college address:"
        f" {named(facts.enrolled)}. Their first click joins that account; work done before it is"
        " compared but was never sent."
    )
    return [Check("enrolled_directly", "ok", message)]


def _opened(facts: PeopleFacts) -> list[Check]:
    if not facts.links or not facts.learners:
        return []
    if facts.opened == 0:
        message = (
            f"No learner has opened a link yet. Until somebody does, {facts.publisher} does not"
            " know where to report that learner's scores."
        )
        return [
            Check(
                "never_opened",
                "warn",
                message,
                "This is normal before the first homework. If work has been handed in already, ask"
                " learners to open each link once, then compare.",
            )
        ]
    return [
        Check(
            "never_opened",
            "ok",
            f"{facts.opened} of {many(facts.learners, 'learner has', 'learners have')} opened a"
            " link.",
        )
    ]


def _told(facts: PeopleFacts) -> Check:
    if facts.access:
        return Check(
            "first_steps",
            "ok",
            "You chose what learners are told for their first steps; earlier instructions to"
            " register on their own no longer apply.",
        )
    message = (
        f"Instructions to register directly at {facts.publisher}, with a course address or key, no"
        " longer apply to this course."
    )
    return Check(
        "first_steps",
        "warn",
        message,
        "Hand out the first steps instead, or place them in the shell as a page.",
    )
