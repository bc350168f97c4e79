"""The OneRoster 1.2 objects that pairing and reconciling need, from REST JSON and back.

Names of fields follow the information model; a reference to another object is kept as its
``sourcedId``. Readers raise OneRosterError naming the field that is missing or of another type.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from vennpair.standards.numbers import read_json_number

Json = dict[str, Any]

SCOPE_ROSTER = "https://purl.imsglobal.org/spec/or/v1p2/scope/roster.readonly"
SCOPE_GRADEBOOK = "https://purl.imsglobal.org/spec/or/v1p2/scope/gradebook.readonly"
SCOPE_RESOURCE = "https://purl.imsglobal.org/spec/or/v1p2/scope/resource.readonly"
LTI_USER_ID = "LTI"  # the type under which a userIds entry names the learner as launches do


class OneRosterError(Exception):
    """An object is not what OneRoster 1.2 says; the message names object and field."""


LONGEST_ID = 255  # characters of a sourcedId; those of the trade are GUIDs


@dataclass(frozen=True, slots=True)
class Class:
    """A course section (rostering, 4.3)."""

    sourced_id: str
    title: str
    class_code: str = ""
    course: str = ""
    term: str = ""
    metadata: Json | None = None
    subjects: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class User:
    """A person (rostering, 4.13).

    ``lti_subs`` are the subjects of their launches, from wherever, as userIds tells them.
    """

    sourced_id: str
    given_name: str
    family_name: str
    email: str = ""
    identifier: str = ""
    lti_subs: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Enrollment:
    """One person's part in one class (rostering, 4.6)."""

    sourced_id: str
    user: str
    class_: str
    role: str


@dataclass(frozen=True, slots=True)
class Category:
    """A group of line items (gradebook, 4.2)."""

    sourced_id: str
    title: str


@dataclass(frozen=True, slots=True)
class LineItem:
    """A scored item (gradebook, 4.4). Dates are ISO 8601 with zone, or empty.

    ``launch_url`` and ``launch_custom`` say how a link opens it, ``attempts`` which attempt counts
    (``counts``: last, best, first, mean) and what is reported (``reported``: each, counting), where
    the publisher tells so in its metadata (docs/course-provisioning.md); the standard has no field
    for either. ``resource`` is the id by which the publisher's links name it (``resourceId`` in its
    metadata), empty where it tells none.
    """

    sourced_id: str
    title: str
    class_: str
    category: str = ""
    assign_date: str = ""
    due_at: str = ""
    maximum: Decimal | None = None
    launch_url: str = ""
    launch_custom: dict[str, str] = field(default_factory=dict)
    attempts: dict[str, str] = field(default_factory=dict)
    resource: str = ""


@dataclass(frozen=True, slots=True)
class Result:
    """One learner's score on a line item (gradebook, 4.6); None is no score."""

    sourced_id: str
    line_item: str
    student: str
    score: Decimal | None
    score_status: str = "fully graded"
    score_date: str = ""
    changed: str = ""  # dateLastModified
    deleted: bool = False
    comment: str = ""


@dataclass(frozen=True, slots=True)
class Resource:
    """A resource assigned to a class (resources, 4.1); ``vendor_resource_id`` may be a URL."""

    sourced_id: str
    title: str
    vendor_resource_id: str
    format: str = ""


def read_class(document: Json) -> Class:
    """Read a class."""
    _require_object(document, "class")
    terms = document.get("terms") or []
    metadata, subjects = document.get("metadata"), document.get("subjects")
    return Class(
        _text(document, "sourcedId", "class"),
        _text(document, "title", "class"),
        str(document.get("classCode") or ""),
        _reference(document.get("course")),
        _reference(terms[0]) if isinstance(terms, list) and terms else "",
        metadata if isinstance(metadata, dict) else None,
        tuple(str(each) for each in subjects) if isinstance(subjects, list) else (),
    )


def read_user(document: Json) -> User:
    """Read a user."""
    _require_object(document, "user")
    ids = document.get("userIds")
    subs = tuple(
        str(each["identifier"])
        for each in (ids if isinstance(ids, list) else ())
        if isinstance(each, dict) and each.get("type") == LTI_USER_ID and each.get("identifier")
    )
    names = (str(document.get("givenName") or ""), str(document.get("familyName") or ""))
    return User(
        _text(document, "sourcedId", "user"),
        *names,
        str(document.get("email") or ""),
        str(document.get("identifier") or ""),
        subs,
    )


def read_enrollment(document: Json) -> Enrollment:
    """Read an enrollment."""
    _require_object(document, "enrollment")
    user, class_ = _reference(document.get("user")), _reference(document.get("class"))
    return Enrollment(
        _text(document, "sourcedId", "enrollment"),
        user,
        class_,
        _text(document, "role", "enrollment"),
    )


def read_category(document: Json) -> Category:
    """Read a category."""
    return Category(_text(document, "sourcedId", "category"), _text(document, "title", "category"))


def read_line_item(document: Json) -> LineItem:
    """Read a line item."""
    _require_object(document, "lineItem")
    metadata = document.get("metadata")
    launch = metadata.get("launch") if isinstance(metadata, dict) else None
    custom = launch.get("custom") if isinstance(launch, dict) else None
    return LineItem(
        _text(document, "sourcedId", "lineItem"),
        _text(document, "title", "lineItem"),
        _reference(document.get("class")),
        _reference(document.get("category")),
        str(document.get("assignDate") or ""),
        str(document.get("dueDate") or ""),
        _decimal(document.get("resultValueMax"), "lineItem", "resultValueMax"),
        str(launch.get("url") or "") if isinstance(launch, dict) else "",
        {str(name): str(value) for name, value in custom.items()}
        if isinstance(custom, dict)
        else {},
        _texts(metadata.get("attempts") if isinstance(metadata, dict) else None),
        str(metadata.get("resourceId") or "") if isinstance(metadata, dict) else "",
    )


def read_result(document: Json) -> Result:
    """Read a result; a status ``exempt`` or ``not submitted`` carries no score."""
    _require_object(document, "result")
    status = str(document.get("scoreStatus") or "")
    score = _decimal(document.get("score"), "result", "score")
    return Result(
        _text(document, "sourcedId", "result"),
        _reference(document.get("lineItem")),
        _reference(document.get("student")),
        None if status == "exempt" else score,
        status,
        str(document.get("scoreDate") or ""),
        str(document.get("dateLastModified") or ""),
        document.get("status") == "tobedeleted",
        str(document.get("comment") or ""),
    )


def read_resource(document: Json) -> Resource:
    """Read a resource."""
    required = (
        _text(document, "sourcedId", "resource"),
        str(document.get("title") or ""),
        _text(document, "vendorResourceId", "resource"),
    )
    return Resource(*required, str(document.get("format") or ""))


def reference(kind: str, sourced_id: str, base_url: str) -> Json:
    """Return a GUIDRef (common, 2.1)."""
    return {"href": f"{base_url}/{sourced_id}", "sourcedId": sourced_id, "type": kind}


def _require_object(document: object, kind: str) -> None:
    if not isinstance(document, dict):
        raise OneRosterError(f"A {kind} is not a JSON object.")


def _text(document: Json, name: str, kind: str) -> str:
    value = document.get(name) if isinstance(document, dict) else None
    if not isinstance(value, str) or not value:
        raise OneRosterError(f"A {kind} lacks its field {name}.")
    if name == "sourcedId" and len(value) > LONGEST_ID:
        raise OneRosterError(f"The sourcedId of a {kind} is longer than {LONGEST_ID} characters.")
    return value


def _reference(value: object) -> str:
    return str(value.get("sourcedId") or "") if isinstance(value, dict) else ""


def _decimal(value: object, kind: str, name: str) -> Decimal | None:
    try:
        return None if value == "" else read_json_number(value)
    except ValueError as error:
        raise OneRosterError(
            f"The field {name} of a {kind} is not a number: {str(value)[:60]!r}: {error}."
        ) from None


def _texts(value: object) -> dict[str, str]:
    return {str(name): str(each) for name, each in value.items()} if isinstance(value, dict) else {}
