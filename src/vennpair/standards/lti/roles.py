"""What somebody is in a course, from the role URIs of a message or roster (LTI Core 1.3, A.2)."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from vennpair.standards.lti import vocabulary as v

Standing = Literal["instructor", "assistant", "designer", "learner", "mentor", "nobody"]

# Who works on a course rather than in it.
TEACHES: frozenset[Standing] = frozenset({"instructor", "assistant", "designer"})
_PRINCIPAL = "http://purl.imsglobal.org/vocab/lis/v2/membership#"
_SUB = "http://purl.imsglobal.org/vocab/lis/v2/membership/"
# Sub-roles of Instructor that help somebody else teach; the others teach (A.2.3.1).
_ASSISTS = ("TeachingAssistant", "Grader")


def standing(roles: Iterable[str]) -> Standing:
    """Return what somebody is in the course.

    Only roles in the course count: an administrator or student of the institution or of the system
    is nobody there (A.2.1 and A.2.2). A sub-role says more than its principal role, so
    ``Instructor#TeachingAssistant`` is an assistant even beside ``Instructor``; a sub-role that
    teaches goes before both. Of several the one with the most to do in the course counts.
    """
    held = [_of(role) for role in roles]
    teaching = [sub for principal, sub in held if principal == "Instructor"]
    if any(sub and not sub.startswith(_ASSISTS) for sub in teaching):
        return "instructor"
    if any(teaching):
        return "assistant"
    if teaching:
        return "instructor"
    principals = {principal for principal, _ in held}
    for principal, what in _OTHERS:
        if principal in principals:
            return what
    return "nobody"


_OTHERS: tuple[tuple[str, Standing], ...] = (
    ("ContentDeveloper", "designer"),
    ("Learner", "learner"),
    ("Mentor", "mentor"),
)


def is_tester(roles: Iterable[str]) -> bool:
    """Say whether somebody is the platform's test user: nobody real (A.2.1)."""
    return v.TEST_USER in roles


def roles_of(what: Standing) -> tuple[str, ...]:
    """Return the roles to send on for somebody: a sub-role with its principal role (A.2.3)."""
    return {
        "instructor": (v.INSTRUCTOR,),
        "assistant": (v.INSTRUCTOR, v.ASSISTANT),
        "designer": (f"{_PRINCIPAL}ContentDeveloper",),
        "learner": (v.LEARNER,),
        "mentor": (f"{_PRINCIPAL}Mentor",),
        "nobody": (),
    }[what]


def _of(role: str) -> tuple[str, str]:
    """Return the principal role in the course and the sub-role, both empty for any other role."""
    full = v.expand_role(role)
    if full.startswith(_PRINCIPAL):
        return full.removeprefix(_PRINCIPAL), ""
    principal, _, sub = full.removeprefix(_SUB).partition("#")
    return (principal, sub) if full.startswith(_SUB) and sub else ("", "")
