"""Deep Linking 2.0, both ways: a platform asks for content, a tool answers with content items."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal
from typing import Any
from urllib.parse import urlsplit

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.grades import LineItem, number, read_line_item
from vennpair.standards.lti.launch import Launch, read_launch, write_launch

Json = dict[str, Any]
RESOURCE_LINK, LINK, HTML = "ltiResourceLink", "link", "html"
MOST_ITEMS = 1_000


@dataclass(frozen=True, slots=True)
class PickSettings:
    """The claim ``deep_linking_settings`` (Deep Linking 2.0, 4.4.1). ``data`` goes back
    unchanged.
    """

    return_url: str
    accept_types: tuple[str, ...]
    accept_targets: tuple[str, ...] = ()
    accept_multiple: bool = False
    accept_line_item: bool = True
    auto_create: bool = False
    title: str = ""
    text: str = ""
    data: str = ""


@dataclass(frozen=True, slots=True)
class PickRequest:
    """A deep linking request: the launch's claims without a resource link, and what may be
    answered.
    """

    launch: Launch
    settings: PickSettings


@dataclass(frozen=True, slots=True)
class ContentItem:
    """A content item; ``kind`` is its type (Deep Linking 2.0, 3).

    Times are ISO 8601 with their zone, empty where there is none.
    """

    kind: str
    title: str = ""
    url: str = ""
    text: str = ""
    custom: dict[str, str] = field(default_factory=dict)
    line_item: LineItem | None = None
    shown_from: str = ""
    due_at: str = ""
    new_window: bool = False


def read_request(claims: Json) -> PickRequest:
    """Turn verified claims into a request. Raises LtiError ``bad_message`` naming the clause."""
    if claims.get(v.MESSAGE_TYPE) != v.DEEP_LINKING_REQUEST:
        raise LtiError(
            "bad_message", "This is not a deep linking request.", "Deep Linking 2.0, 4.4"
        )
    asked = claims.get(v.DL_SETTINGS)
    if not isinstance(asked, dict):
        raise LtiError(
            "bad_message",
            "The message lacks the claim deep_linking_settings.",
            "Deep Linking 2.0, 4.4.1",
        )
    back = str(asked.get("deep_link_return_url") or "")
    if urlsplit(back).scheme not in {"http", "https"}:
        raise LtiError(
            "bad_message", "The message names no address to answer to.", "Deep Linking 2.0, 4.4.1"
        )
    types = asked.get("accept_types")
    if not isinstance(types, list) or not types:
        raise LtiError(
            "bad_message",
            "The message does not say which types it accepts.",
            "Deep Linking 2.0, 4.4.1",
        )
    # Without a link of its own, the rest of the message is a launch's (Deep Linking 2.0, 4.4).
    common = claims | {
        v.MESSAGE_TYPE: v.RESOURCE_LINK_REQUEST,
        v.RESOURCE_LINK: {"id": "picking"},
        v.TARGET_LINK_URI: claims.get(v.TARGET_LINK_URI) or back,
    }
    targets = asked.get("accept_presentation_document_targets")
    return PickRequest(
        read_launch(common),
        PickSettings(
            back,
            tuple(map(str, types)),
            tuple(map(str, targets)) if isinstance(targets, list) else (),
            asked.get("accept_multiple") is True,
            asked.get("accept_lineitem") is not False,
            asked.get("auto_create") is True,
            str(asked.get("title") or ""),
            str(asked.get("text") or ""),
            str(asked.get("data") or ""),
        ),
    )


def write_request(request: PickRequest) -> Json:
    """Return the LTI claims of a request.

    ``iss``, ``aud``, times and nonce are the signer's to add.
    """
    claims = write_launch(request.launch) | {v.MESSAGE_TYPE: v.DEEP_LINKING_REQUEST}
    del claims[v.RESOURCE_LINK]
    asked = request.settings
    claims[v.DL_SETTINGS] = {
        "deep_link_return_url": asked.return_url,
        "accept_types": list(asked.accept_types),
        "accept_presentation_document_targets": list(asked.accept_targets) or ["window"],
        "accept_multiple": asked.accept_multiple,
        "accept_lineitem": asked.accept_line_item,
        "auto_create": asked.auto_create,
    } | {
        name: value
        for name, value in (("title", asked.title), ("text", asked.text), ("data", asked.data))
        if value
    }
    return claims


def write_response(
    settings: PickSettings, deployment_id: str, items: list[ContentItem], message: str = ""
) -> Json:
    """Return the LTI claims of a response (Deep Linking 2.0, 4.5).

    Raises ValueError where more is answered than was asked for.
    """
    if len(items) > 1 and not settings.accept_multiple:
        raise ValueError("the platform takes one item at a time")
    if any(item.kind not in settings.accept_types for item in items):
        raise ValueError("the platform does not take items of this type")
    claims: Json = {
        v.MESSAGE_TYPE: v.DEEP_LINKING_RESPONSE,
        v.VERSION: v.LTI_VERSION,
        v.DEPLOYMENT_ID: deployment_id,
        v.DL_ITEMS: [write_item(item, settings.accept_line_item) for item in items],
    }
    if settings.data:
        claims[v.DL_DATA] = settings.data
    return claims | ({v.DL_MESSAGE: message} if message else {})


def write_item(item: ContentItem, with_column: bool = True) -> Json:
    """Return the JSON of a content item; empty fields are left out (Deep Linking 2.0, 3.2)."""
    document: Json = {"type": item.kind} | {
        name: value
        for name, value in (("title", item.title), ("text", item.text), ("url", item.url))
        if value
    }
    if item.custom:
        document["custom"] = item.custom
    if item.line_item and with_column:
        column = item.line_item
        named = {"label": column.label, "resourceId": column.resource_id, "tag": column.tag}
        document["lineItem"] = {"scoreMaximum": number(column.score_maximum)} | {
            name: value for name, value in named.items() if value
        }
    if item.shown_from:
        document["available"] = {"startDateTime": item.shown_from}
    if item.due_at:
        document["submission"] = {"endDateTime": item.due_at}
    if item.new_window:
        document["window"] = {"targetName": "_blank"}
    return document


def read_response(claims: Json) -> tuple[list[ContentItem], str]:
    """Return the items and the ``data`` of verified claims.

    Raises LtiError ``bad_message``, ``bad_item``.
    """
    if (
        claims.get(v.MESSAGE_TYPE) != v.DEEP_LINKING_RESPONSE
        or claims.get(v.VERSION) != v.LTI_VERSION
    ):
        raise LtiError(
            "bad_message", "This is not a deep linking response.", "Deep Linking 2.0, 4.5"
        )
    if claims.get(v.DL_ERROR):
        raise LtiError(
            "pick_refused",
            f"Nothing was picked: {str(claims[v.DL_ERROR])[:300]}",
            "Deep Linking 2.0, 4.5.7",
        )
    rows = claims.get(v.DL_ITEMS) or []
    if not isinstance(rows, list) or len(rows) > MOST_ITEMS:
        raise LtiError(
            "bad_message",
            f"The response holds no list of at most {MOST_ITEMS} items.",
            "Deep Linking 2.0, 4.5.4",
        )
    return [read_item(row) for row in rows], str(claims.get(v.DL_DATA) or "")


def read_item(document: Json) -> ContentItem:
    """Read a content item. Raises LtiError ``bad_item``, ``bad_line_item``."""
    if not isinstance(document, dict) or not isinstance(document.get("type"), str):
        raise LtiError("bad_item", "A content item names no type.", "Deep Linking 2.0, 3")
    url = str(document.get("url") or "")
    if url and urlsplit(url).scheme not in {"http", "https"}:
        raise LtiError(
            "bad_item", "A content item's url is not a web address.", "Deep Linking 2.0, 3"
        )
    given = document.get("custom")
    column = document.get("lineItem")
    title = str(document.get("title") or "")
    window = document.get("window")
    return ContentItem(
        document["type"],
        title,
        url,
        str(document.get("text") or ""),
        {str(key): str(value) for key, value in given.items()} if isinstance(given, dict) else {},
        (
            read_line_item({"label": title or "untitled", **column})
            if isinstance(column, dict)
            else None
        ),
        _moment(document, "available", "startDateTime"),
        _moment(document, "submission", "endDateTime"),
        isinstance(window, dict),
    )


def points_of(item: ContentItem) -> Decimal | None:
    """Return the points that an item's column has, None without a column."""
    return item.line_item.score_maximum if item.line_item else None


def _moment(document: Json, name: str, part: str) -> str:
    value = document.get(name)
    text = str(value.get(part) or "") if isinstance(value, dict) else ""
    try:
        moment = datetime.fromisoformat(text) if text else None
    except ValueError:
        moment = None
    if text and (moment is None or moment.tzinfo is None):
        raise LtiError(
            "bad_item",
            f"{name}.{part} is not an ISO 8601 time with a zone.",
            "Deep Linking 2.0, 3.2",
        )
    return text
