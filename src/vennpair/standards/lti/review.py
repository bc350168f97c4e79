"""Submission Review 1.0, both ways: a platform asks a tool to show what one learner handed in."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.launch import Launch, Person, read_launch, write_launch

Json = dict[str, Any]


@dataclass(frozen=True, slots=True)
class ReviewRequest:
    """Who asks and for which line item (``launch``, its ``grades.lineitem``), and whose work it is
    (claim ``for_user``).

    ``launch.resource_link_id`` is empty where the line item belongs to no link.
    """

    launch: Launch
    learner: Person


def read_review(claims: Json) -> ReviewRequest:
    """Turn verified claims into a request.

    Raises LtiError ``bad_message`` naming the clause of Submission Review 1.0.
    """
    whose = claims.get(v.FOR_USER)
    user = whose.get("user_id") if isinstance(whose, dict) else None
    if not isinstance(whose, dict) or not isinstance(user, str) or not user:
        raise LtiError(
            "bad_message", "The message does not say whose work it is.", "Submission Review 1.0, 3"
        )
    link = claims.get(v.RESOURCE_LINK)
    given = isinstance(link, dict) and bool(link.get("id"))
    # But for its type and the learner it is a launch of the link (Submission Review 1.0, 3).
    launch = read_launch(
        claims
        | {v.MESSAGE_TYPE: v.RESOURCE_LINK_REQUEST}
        | ({} if given else {v.RESOURCE_LINK: {"id": "review"}})
    )
    if launch.grades is None or not launch.grades.lineitem:
        raise LtiError("bad_message", "The message names no line item.", "Submission Review 1.0, 3")
    names = (str(whose.get(name) or "") for name in ("name", "given_name", "family_name", "email"))
    return ReviewRequest(launch, Person(user, *names))


def write_review(request: ReviewRequest) -> Json:
    """Return the LTI claims of a request.

    ``iss``, ``aud``, times and nonce are the signer's to add.
    """
    learner = request.learner
    whose = {
        "user_id": learner.sub,
        "name": learner.name,
        "given_name": learner.given_name,
        "family_name": learner.family_name,
        "email": learner.email,
        "person_sourcedid": learner.sourced_id,
        "roles": [v.LEARNER],
    }
    return write_launch(request.launch) | {
        v.MESSAGE_TYPE: v.SUBMISSION_REVIEW_REQUEST,
        v.FOR_USER: {name: value for name, value in whose.items() if value},
    }
