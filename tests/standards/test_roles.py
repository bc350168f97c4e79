"""What somebody is in a course, by the vocabulary (LTI Core 1.3, A.2)."""

from __future__ import annotations

import pytest

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.roles import roles_of, standing
from vennpair.standards.lti.shared_key import short_roles

M, S = (
    "http://purl.imsglobal.org/vocab/lis/v2/membership#",
    "http://purl.imsglobal.org/vocab/lis/v2/membership/",
)
INSTITUTION = "http://purl.imsglobal.org/vocab/lis/v2/institution/person#"
SYSTEM = "http://purl.imsglobal.org/vocab/lis/v2/system/person#"


@pytest.mark.parametrize(
    ("roles", "what"),
    [
        ([M + "Instructor"], "instructor"),
        (["Instructor"], "instructor"),
        ([S + "Instructor#PrimaryInstructor"], "instructor"),
        ([M + "Instructor", S + "Instructor#TeachingAssistant"], "assistant"),
        ([S + "Instructor#TeachingAssistantSection"], "assistant"),
        ([S + "Instructor#Grader", M + "Instructor"], "assistant"),
        ([S + "Instructor#TeachingAssistant", S + "Instructor#PrimaryInstructor"], "instructor"),
        ([M + "ContentDeveloper"], "designer"),
        ([S + "ContentDeveloper#ContentExpert"], "designer"),
        ([M + "Learner"], "learner"),
        ([S + "Learner#GuestLearner"], "learner"),
        ([S + "Learner#Instructor"], "learner"),  # a sub-role of Learner, for all its name
        ([M + "Mentor"], "mentor"),
        ([S + "Mentor#Advisor"], "mentor"),
        ([INSTITUTION + "Administrator"], "nobody"),
        ([INSTITUTION + "Instructor"], "nobody"),
        ([INSTITUTION + "Student"], "nobody"),
        ([SYSTEM + "SysAdmin"], "nobody"),
        ([INSTITUTION + "Administrator", M + "Learner"], "learner"),
        ([M + "Administrator"], "nobody"),
        ([], "nobody"),
        (["", "Learner ", "learner", "#", "http://evil.example/#Instructor"], "nobody"),
    ],
)
def test_only_roles_in_the_course_count_and_sub_roles_say_more(roles: list[str], what: str) -> None:
    assert standing(roles) == what


@pytest.mark.parametrize("what", ["instructor", "assistant", "designer", "learner", "mentor"])
def test_what_is_sent_on_says_the_same(what: str) -> None:
    assert standing(roles_of(what)) == what  # type: ignore[arg-type]


def test_lti_1_1_has_short_names_for_them() -> None:
    assert short_roles(roles_of("learner")) == "Learner"
    assert short_roles((v.LEARNER, v.TEST_USER)) == "Learner"
    assert short_roles(roles_of("assistant")) == "Instructor,urn:lti:role:ims/lis/TeachingAssistant"
