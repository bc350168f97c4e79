"""Deep Linking 2.0: what is asked for, what may be answered, and answers that are not to be
believed.
"""

from __future__ import annotations

from decimal import Decimal
from typing import Any

import pytest

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.deep_linking import (
    ContentItem,
    PickRequest,
    PickSettings,
    points_of,
    read_item,
    read_request,
    read_response,
    write_item,
    write_request,
    write_response,
)
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.grades import LineItem

SETTINGS = {
    "deep_link_return_url": "https://campus.example/back",
    "accept_types": ["ltiResourceLink"],
    "accept_presentation_document_targets": ["iframe"],
}
INSTRUCTOR = "http://purl.imsglobal.org/vocab/lis/v2/membership#Instructor"


def claims(**changes: Any) -> dict[str, Any]:
    """Return verified claims of a request, with settings changed (None takes one out)."""
    settings = {name: value for name, value in (SETTINGS | changes).items() if value is not None}
    return {
        "iss": "https://campus.example",
        "sub": "u1",
        v.MESSAGE_TYPE: v.DEEP_LINKING_REQUEST,
        v.VERSION: v.LTI_VERSION,
        v.DEPLOYMENT_ID: "d1",
        v.ROLES: [INSTRUCTOR],
        v.CONTEXT: {"id": "c1", "title": "HYD 210"},
        v.DL_SETTINGS: settings,
    }


def test_what_a_platform_does_not_say_is_taken_narrowly() -> None:
    asked = read_request(claims()).settings
    assert (asked.accept_multiple, asked.auto_create, asked.data) == (False, False, "")
    assert (
        asked.accept_line_item
    )  # nothing is known of it, and a platform ignores what it does not take (4.4.1)
    loose = read_request(
        claims(accept_multiple="true", auto_create=1, accept_lineitem=False)
    ).settings
    assert (loose.accept_multiple, loose.auto_create, loose.accept_line_item) == (
        False,
        False,
        False,
    )


def test_a_request_needs_no_resource_link_and_comes_back_as_written() -> None:
    request = read_request(
        claims(
            accept_multiple=True, accept_lineitem=True, data="csrf:9", title="Week 1", text="choose"
        )
    )
    assert request.launch.context is not None
    written = write_request(request)
    assert v.RESOURCE_LINK not in written
    assert read_request(claims() | written) == PickRequest(request.launch, request.settings)


@pytest.mark.parametrize(
    "broken",
    [
        claims() | {v.MESSAGE_TYPE: v.RESOURCE_LINK_REQUEST},
        claims() | {v.DL_SETTINGS: None},
        claims() | {v.DL_SETTINGS: ["https://campus.example/back"]},
        claims(deep_link_return_url=None),
        claims(deep_link_return_url="javascript:alert(1)"),
        claims(deep_link_return_url="/back"),
        claims(accept_types=None),
        claims(accept_types=[]),
        claims(accept_types="ltiResourceLink"),
        claims() | {v.DEPLOYMENT_ID: ""},
    ],
)
def test_a_request_that_cannot_be_answered_is_refused(broken: dict[str, Any]) -> None:
    with pytest.raises(LtiError):
        read_request(broken)


def settings(**changes: Any) -> PickSettings:
    return read_request(claims(**changes)).settings


def test_no_more_is_answered_than_was_asked_for() -> None:
    link, page = ContentItem("ltiResourceLink", "Practice set 1A"), ContentItem("html", "A page")
    with pytest.raises(ValueError, match="one item"):
        write_response(settings(), "d1", [link, link])
    with pytest.raises(ValueError, match="type"):
        write_response(settings(), "d1", [page])
    assert len(write_response(settings(accept_multiple=True), "d1", [link, link])[v.DL_ITEMS]) == 2
    assert write_response(settings(), "d1", [])[v.DL_ITEMS] == []  # somebody who picked nothing


def test_data_goes_back_unchanged_and_only_where_it_came() -> None:
    link = ContentItem("ltiResourceLink", "Practice set 1A")
    assert v.DL_DATA not in write_response(settings(), "d1", [link])
    said = write_response(settings(data=' a"b\u00e9 '), "d1", [link], "1 item")
    assert (said[v.DL_DATA], said[v.DL_MESSAGE], said[v.VERSION], said[v.DEPLOYMENT_ID]) == (
        ' a"b\u00e9 ',
        "1 item",
        v.LTI_VERSION,
        "d1",
    )


ITEM = ContentItem(
    "ltiResourceLink",
    "Übungen 1A: \U0001f30a",
    "https://pair.example/launch",
    custom={"placement": "p1"},
    line_item=LineItem("Übungen 1A: \U0001f30a", Decimal("0.1"), resource_id="p1", tag="vennpair"),
    shown_from="2027-01-11T08:00:00-06:00",
    due_at="2027-03-14T23:59:00-05:00",
    new_window=True,
)


def test_an_item_says_points_dates_and_window_and_comes_back() -> None:
    said = write_item(ITEM)
    assert said["lineItem"] == {
        "label": ITEM.title,
        "scoreMaximum": 0.1,
        "resourceId": "p1",
        "tag": "vennpair",
    }
    assert (said["available"], said["submission"]) == (
        {"startDateTime": ITEM.shown_from},
        {"endDateTime": ITEM.due_at},
    )
    assert read_item(said) == ITEM
    assert points_of(read_item(said)) == Decimal("0.1")
    bare = write_item(ContentItem("ltiResourceLink", "x"))
    assert bare == {"type": "ltiResourceLink", "title": "x"}  # nothing empty is sent
    assert "lineItem" not in write_item(ITEM, with_column=False)


def response(*items: Any, **changes: Any) -> dict[str, Any]:
    return {
        v.MESSAGE_TYPE: v.DEEP_LINKING_RESPONSE,
        v.VERSION: v.LTI_VERSION,
        v.DL_ITEMS: list(items),
    } | changes


def test_an_answer_with_nothing_in_it_is_an_answer() -> None:
    assert read_response(response()) == ([], "")
    assert read_response(
        {v.MESSAGE_TYPE: v.DEEP_LINKING_RESPONSE, v.VERSION: v.LTI_VERSION, v.DL_DATA: "d"}
    ) == ([], "d")


def test_a_column_without_a_label_takes_the_item_s_title() -> None:
    (item,), _ = read_response(
        response({"type": "ltiResourceLink", "title": "Set 1", "lineItem": {"scoreMaximum": 10}})
    )
    assert item.line_item is not None
    assert (item.line_item.label, item.line_item.score_maximum) == ("Set 1", Decimal(10))


@pytest.mark.parametrize(
    ("said", "code"),
    [
        (response(**{v.MESSAGE_TYPE: "other"}), "bad_message"),
        (response(**{v.VERSION: "1.1"}), "bad_message"),
        (response(**{v.DL_ITEMS: {"type": "link"}}), "bad_message"),
        (response(**{v.DL_ITEMS: [{"type": "link"}] * 1_001}), "bad_message"),
        (response(**{v.DL_ERROR: "the class is closed"}), "pick_refused"),
        (response("link"), "bad_item"),
        (response({"title": "no type"}), "bad_item"),
        (response({"type": 7}), "bad_item"),
        (
            response(
                {"type": "ltiResourceLink", "submission": {"endDateTime": "2027-01-20T23:59:00"}}
            ),
            "bad_item",
        ),  # names no zone
        (
            response({"type": "ltiResourceLink", "available": {"startDateTime": "tomorrow"}}),
            "bad_item",
        ),
        (
            response({"type": "ltiResourceLink", "lineItem": {"scoreMaximum": "many"}}),
            "bad_line_item",
        ),
        (
            response({"type": "ltiResourceLink", "lineItem": {"scoreMaximum": float("nan")}}),
            "bad_line_item",
        ),
    ],
)
def test_an_answer_that_breaks_the_standard_is_named(said: dict[str, Any], code: str) -> None:
    with pytest.raises(LtiError) as caught:
        read_response(said)
    assert caught.value.code == code
