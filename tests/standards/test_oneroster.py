"""OneRoster 1.2 objects: read with their references, and refused with the field that is wrong."""

from __future__ import annotations

from collections.abc import Callable
from decimal import Decimal
from typing import Any

import pytest

from vennpair.standards.oneroster import objects as o


def ref(sourced_id: str) -> dict[str, str]:
    return {"href": f"https://press.example/{sourced_id}", "sourcedId": sourced_id, "type": "x"}


def test_objects_are_read_with_their_references() -> None:
    assert o.read_class(
        {
            "sourcedId": "c1",
            "title": "Rivers",
            "classCode": "HYD 210-01",
            "course": ref("r3"),
            "terms": [ref("s27")],
        }
    ) == o.Class("c1", "Rivers", "HYD 210-01", "r3", "s27")
    assert o.read_class(
        {"sourcedId": "c1", "title": "Rivers", "metadata": {"learners": 20}}
    ).metadata == {"learners": 20}
    user = {
        "sourcedId": "u1",
        "givenName": "Vesna",
        "familyName": "Kršinić",
        "email": "v@t.example",
        "userIds": [
            {"type": "Fed", "identifier": "x"},
            {"type": "LTI", "identifier": "sub-1"},
            {"type": "LTI", "identifier": "sub-2"},
        ],
    }
    assert o.read_user(user) == o.User(
        "u1", "Vesna", "Kršinić", "v@t.example", "", ("sub-1", "sub-2")
    )
    assert o.read_enrollment(
        {"sourcedId": "e1", "user": ref("u1"), "class": ref("c1"), "role": "student"}
    ) == o.Enrollment("e1", "u1", "c1", "student")
    assert o.read_category({"sourcedId": "k1", "title": "Quizzes"}) == o.Category("k1", "Quizzes")
    item = {
        "sourcedId": "l1",
        "title": "Quiz",
        "class": ref("c1"),
        "category": ref("k1"),
        "dueDate": "2027-03-12T23:59:00-06:00",
        "resultValueMax": 12.5,
    }
    assert o.read_line_item(item) == o.LineItem(
        "l1", "Quiz", "c1", "k1", "", "2027-03-12T23:59:00-06:00", Decimal("12.5")
    )
    assert (
        o.read_resource(
            {
                "sourcedId": "r1",
                "title": "Cartridge",
                "vendorResourceId": "https://x.example",
                "format": "imscc",
            }
        ).format
        == "imscc"
    )


@pytest.mark.parametrize(
    ("changes", "score"),
    [
        ({}, Decimal("7.5")),
        ({"score": 0}, Decimal(0)),
        ({"score": None}, None),
        ({"score": ""}, None),
        ({"scoreStatus": "exempt"}, None),
    ],
)
def test_a_missing_or_exempt_score_is_none_and_never_zero(
    changes: dict[str, Any], score: Decimal | None
) -> None:
    document = {
        "sourcedId": "x",
        "lineItem": ref("l1"),
        "student": ref("u1"),
        "scoreStatus": "fully graded",
        "score": 7.5,
    }
    result = o.read_result(document | changes)
    assert (result.line_item, result.student, result.score) == ("l1", "u1", score)


@pytest.mark.parametrize(
    ("reader", "document", "field"),
    [
        (o.read_class, {"title": "x"}, "sourcedId"),
        (o.read_class, {"sourcedId": 5, "title": "x"}, "sourcedId"),
        (o.read_line_item, {"sourcedId": "l1"}, "title"),
        (
            o.read_line_item,
            {"sourcedId": "l1", "title": "x", "resultValueMax": "many"},
            "resultValueMax",
        ),
        (o.read_result, {"sourcedId": "r1", "score": "NaN"}, "score"),
        (o.read_resource, {"sourcedId": "r1", "title": "x"}, "vendorResourceId"),
        (o.read_enrollment, {"sourcedId": "e1"}, "role"),
    ],
)
def test_what_is_missing_or_no_number_is_named(
    reader: Callable[[Any], Any], document: dict[str, Any], field: str
) -> None:
    with pytest.raises(o.OneRosterError, match=field):
        reader(document)


def test_references_that_are_none_are_read_as_empty() -> None:
    assert (
        o.read_line_item(
            {"sourcedId": "l1", "title": "x", "class": None, "category": "k1"}
        ).category
        == ""
    )
    assert o.read_class({"sourcedId": "c1", "title": "x", "terms": []}).term == ""
