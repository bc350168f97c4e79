"""Every claim and field that another system sends, replaced by what no standard foresees: each
reader takes it or refuses it in its own words, and never ends in an error of ours.
"""

from __future__ import annotations

import copy
import json
from collections.abc import Callable, Iterator
from contextlib import suppress
from datetime import UTC, datetime
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vennpair.standards.json_text import read_json
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.deep_linking import read_item, read_request, read_response
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.grades import (
    Score,
    read_line_item,
    read_result,
    read_score,
    write_score,
)
from vennpair.standards.lti.keys import new_private_pem, private_key, public_jwks, read_jwks
from vennpair.standards.lti.launch import Launch, Person, read_launch, write_launch
from vennpair.standards.lti.members import read_members
from vennpair.standards.lti.registration import read_configuration, read_registration
from vennpair.standards.lti.review import read_review
from vennpair.standards.oneroster import objects
from vennpair.standards.oneroster.objects import OneRosterError
from vennpair.standards.outline import read_node, read_offers, read_outline, read_tool
from vennpair.standards.outline.gradebook import read_category, read_gradebook
from vennpair.standards.provisioning import read_account, read_features, read_made, read_titles

AT = "https://campus.example"
NAMES = {"name": "Ada Brook", "given_name": "Ada", "family_name": "Brook", "email": "ada@t.example"}
CLAIMS = write_launch(Launch(Person("u1"), "d1", "https://pair.example/", "link-1")) | {
    **NAMES,
    v.CONTEXT: {"id": "c1", "label": "HYD 210", "title": "Rivers", "type": ["CourseSection"]},
    v.RESOURCE_LINK: {"id": "link-1", "title": "Quiz"},
    v.CUSTOM: {"item": "li-1", "history": "a,b"},
    v.ROLES: ["http://purl.imsglobal.org/vocab/lis/v2/membership#Learner"],
    v.LIS: {"person_sourcedid": "T 1", "course_section_sourcedid": "S 1"},
    v.LAUNCH_PRESENTATION: {"return_url": f"{AT}/back", "document_target": "iframe"},
    v.AGS_CLAIM: {"scope": ["a", "b"], "lineitems": f"{AT}/items", "lineitem": f"{AT}/items/1"},
    v.NRPS_CLAIM: {"context_memberships_url": f"{AT}/members", "service_versions": ["2.0"]},
}
LINE_ITEM = {
    "id": f"{AT}/items/1",
    "label": "Quiz",
    "scoreMaximum": 10,
    "resourceId": "r",
    "resourceLinkId": "link-1",
    "tag": "t",
    "startDateTime": "2027-01-20T08:00:00-06:00",
    "endDateTime": "2027-02-20T08:00:00Z",
    "gradesReleased": True,
}
LINK = {
    "type": "ltiResourceLink",
    "title": "Quiz",
    "url": f"{AT}/quiz",
    "custom": {"a": "b"},
    "lineItem": {"scoreMaximum": 10, "label": "Quiz", "resourceId": "r", "tag": "t"},
    "available": {"startDateTime": "2027-01-20T08:00:00Z"},
    "submission": {"endDateTime": "2027-02-20T08:00:00Z"},
    "iframe": {"width": 800, "height": 600},
    "icon": {"url": f"{AT}/i.png", "width": 10, "height": 10},
}
DEEP_LINKING = {
    v.DL_SETTINGS: {
        "deep_link_return_url": f"{AT}/picked",
        "accept_types": ["ltiResourceLink"],
        "accept_presentation_document_targets": ["iframe"],
        "accept_multiple": True,
        "accept_lineitem": True,
        "data": "opaque",
    }
}
TOOL = {
    "application_type": "web",
    "client_name": "Press",
    "initiate_login_uri": f"{AT}/login",
    "redirect_uris": [f"{AT}/launch"],
    "jwks_uri": f"{AT}/jwks",
    "token_endpoint_auth_method": "private_key_jwt",
    "scope": "a b",
    "response_types": ["id_token"],
    "grant_types": ["implicit", "client_credentials"],
    "https://purl.imsglobal.org/spec/lti-tool-configuration": {
        "domain": "campus.example",
        "target_link_uri": f"{AT}/launch",
        "claims": ["sub"],
        "messages": [{"type": "LtiDeepLinkingRequest", "label": "Pick"}],
        "custom_parameters": {"a": "b"},
    },
}
PLATFORM = {
    "issuer": AT,
    "authorization_endpoint": f"{AT}/auth",
    "token_endpoint": f"{AT}/token",
    "jwks_uri": f"{AT}/jwks",
    "registration_endpoint": f"{AT}/register",
    "scopes_supported": ["openid"],
    "claims_supported": ["sub"],
    "https://purl.imsglobal.org/spec/lti-platform-configuration": {
        "product_family_code": "campus",
        "version": "1",
        "messages_supported": [{"type": "LtiResourceLinkRequest"}],
        "variables": ["Context.id.history"],
    },
}
REF = {"href": f"{AT}/x", "sourcedId": "x", "type": "class"}
BASE = {"sourcedId": "s1", "status": "active", "dateLastModified": "2027-01-01T00:00:00Z"}
USER = {
    "username": "ada",
    "givenName": "Ada",
    "familyName": "Brook",
    "email": "ada@t.example",
    "identifier": "T 1",
    "userIds": [{"type": "sis", "identifier": "T 1"}],
    "roles": [{"roleType": "primary", "role": "student", "org": REF}],
    "metadata": {"a": "b"},
}
ITEM = {
    "title": "Quiz",
    "assignDate": "2027-01-20T08:00:00Z",
    "dueDate": "2027-02-20T08:00:00Z",
    "class": REF,
    "category": REF,
    "gradingPeriod": REF,
    "resultValueMin": 0,
    "resultValueMax": 10,
    "metadata": {"attempts": 3, "launch": f"{AT}/launch"},
}
RESULT = {
    "lineItem": REF,
    "student": REF,
    "scoreStatus": "fully graded",
    "score": 7.5,
    "scoreDate": "2027-02-01",
    "metadata": {"at": "2027-02-01T10:00:00Z"},
}
NODE = {
    "id": "n",
    "title": "Week 1",
    "kind": "lti_link",
    "folder": "f",
    "position": 1,
    "depth": 1,
    "visible": True,
    "audience": "everyone",
    "resource_link_id": "link-1",
    "column": f"{AT}/items/1",
    "custom": {"a": "b"},
    "etag": "e",
    "used": False,
    "due_at": "2027-02-20T08:00:00Z",
}
MEMBER = {
    **NAMES,
    "user_id": "u1",
    "roles": ["Learner"],
    "status": "Active",
    "lis_person_sourcedid": "T 1",
}
GRADEBOOK = {
    "columns": [{"id": f"{AT}/items/1", "category": "k"}],
    "categories": [{"id": "k", "title": "Quizzes"}],
    "etag": "e",
}
SCORE = write_score(Score("u1", datetime(2027, 1, 1, tzinfo=UTC), Decimal(7), Decimal(10)))
REVIEW = CLAIMS | {v.MESSAGE_TYPE: "LtiSubmissionReviewRequest", v.FOR_USER: {"user_id": "u2"}}
ANSWER = CLAIMS | {v.MESSAGE_TYPE: v.DEEP_LINKING_RESPONSE, v.DL_ITEMS: [LINK], v.DL_DATA: "opaque"}

READERS: dict[str, tuple[Callable[[Any], Any], Any]] = {
    "launch": (read_launch, CLAIMS),
    "review": (read_review, REVIEW),
    "picking": (read_request, CLAIMS | DEEP_LINKING | {v.MESSAGE_TYPE: v.DEEP_LINKING_REQUEST}),
    "picked": (read_response, ANSWER),
    "content item": (read_item, LINK),
    "line item": (read_line_item, LINE_ITEM),
    "score": (read_score, SCORE),
    "result": (
        read_result,
        {"userId": "u1", "resultScore": 7, "resultMaximum": 10, "comment": "good", "id": "r"},
    ),
    "members": (read_members, {"id": AT, "context": {"id": "c1"}, "members": [MEMBER]}),
    "keys": (read_jwks, public_jwks([private_key(*new_private_pem())])),
    "tool": (read_registration, TOOL),
    "platform": (lambda document: read_configuration(document, AT), PLATFORM),
    "class": (objects.read_class, BASE | {"title": "Rivers", "classCode": "HYD", "terms": [REF]}),
    "user": (objects.read_user, BASE | USER),
    "enrollment": (
        objects.read_enrollment,
        BASE | {"user": REF, "class": REF, "role": "student", "primary": True},
    ),
    "category": (objects.read_category, BASE | {"title": "Quizzes"}),
    "graded item": (objects.read_line_item, BASE | ITEM),
    "graded result": (objects.read_result, BASE | RESULT),
    "resource": (
        objects.read_resource,
        BASE | {"title": "Cartridge", "vendorResourceId": "v", "roles": ["primary"]},
    ),
    "node": (read_node, NODE),
    "outline": (read_outline, {"nodes": [NODE], "offers": ["gradebook"]}),
    "offers": (read_offers, {"nodes": [NODE], "offers": ["gradebook"]}),
    "shell tool": (read_tool, {"on": True, "navigation": True, "position": 1, "etag": "e"}),
    "column category": (read_category, {"id": "k", "title": "Quizzes"}),
    "gradebook": (read_gradebook, GRADEBOOK),
    "features": (read_features, {"features": ["make", "copy"]}),
    "titles": (read_titles, {"titles": [{"id": "t", "title": "Rivers"}]}),
    "made": (read_made, {"sourcedId": "s"}),
    "account": (read_account, {"id": "a", "name": "Ada", "email": "ada@t.example"}),
}
OF_TOKENS = {"launch", "review", "picking", "picked"}
ODD: list[Any] = [
    *(None, True, False, 0, -1, 1.5, 10**30, -(10**30), "", " ", "0", "NaN", "1e999999999"),
    *("x" * 300, "x" * 70_000, "\u202etxt", "ﬁ", "é" * 5_000, "javascript:alert(1)", "http://["),
    *("9999-99-99T99:99:99Z", "2027-02-30", "2027-01-01T00:00:00+99:99", "0001-01-01T00:00:00Z"),
    *([], {}, [None], [[]], [{}], {"": ""}, {"id": None}, {"a": {"b": []}}, [1, "a", None, {}]),
    json.loads("[" * 150 + "]" * 150),
]


def places(document: Any, at: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Give the way to every value of a document, the whole first."""
    yield at
    rows = document.items() if isinstance(document, dict) else ()
    for key, value in [*rows, *(enumerate(document) if isinstance(document, list) else ())]:
        yield from places(value, (*at, key))


def put(document: Any, at: tuple[Any, ...], value: Any) -> Any:
    """Return a copy with another value at a place."""
    if not at:
        return value
    changed = copy.deepcopy(document)
    inside = changed
    for key in at[:-1]:
        inside = inside[key]
    inside[at[-1]] = value
    return changed


def taken_or_refused(read: Callable[[Any], Any], document: Any) -> None:
    with suppress(LtiError, OneRosterError, ValueError):  # as each reader says of itself
        read(document)


@pytest.mark.parametrize("name", READERS)
def test_each_field_alone(name: str) -> None:
    read, document = READERS[name]
    for at in places(document):
        if not at and name in OF_TOKENS:
            continue  # what a token says is an object
        for value in ODD:
            taken_or_refused(read, put(document, at, value))


anything = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=40),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=10), inner),
    max_leaves=12,
)


@settings(max_examples=300, deadline=None)
@given(data=st.data())
def test_several_fields_at_once(data: st.DataObject) -> None:
    read, document = READERS[data.draw(st.sampled_from(sorted(READERS)))]
    for _ in range(data.draw(st.integers(1, 4))):
        at = data.draw(st.sampled_from(list(places(document))[1:]))
        document = put(document, at, data.draw(anything | st.sampled_from(ODD)))
    text = json.dumps(document)
    try:
        arrived = read_json(text)
    except ValueError:
        return  # a lone surrogate, or a null character
    taken_or_refused(read, arrived)
